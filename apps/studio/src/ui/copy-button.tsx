'use client';

import { useEffect, useState } from 'react';
import { Button } from './button';
import { copyText } from './copy-text';

const SAID_MS = 2000;

/** Puts a text on the clipboard, and says so. A function is asked for it at the click. */
export function CopyButton({ text, label = 'Copy' }: { text: string | (() => string); label?: string }) {
  const [said, setSaid] = useState<string | null>(null);
  useEffect(() => {
    if (said === null) return;
    const timer = setTimeout(() => setSaid(null), SAID_MS);
    return () => clearTimeout(timer);
  }, [said]);
  const copy = (): void => {
    copyText(typeof text === 'string' ? text : text()).then(
      () => setSaid('Copied'),
      (error: Error) => setSaid(error.message),
    );
  };
  return (
    <Button onClick={copy}>
      <span aria-live="polite">{said ?? label}</span>
    </Button>
  );
}
