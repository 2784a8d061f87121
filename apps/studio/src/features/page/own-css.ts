import { useEffect, useState } from 'react';
import type { OwnCss } from '@/text/own-css';

/** What a style sheet of the page's own comes to; null without one, or until its reader is there. */
export function useOwnCss(source: string | undefined): OwnCss | null {
  const [read, setRead] = useState<((source: string) => OwnCss) | null>(null);
  const isWanted = source !== undefined;
  useEffect(() => {
    if (isWanted) void import('@/text/own-css').then(({ readOwnCss }) => setRead(() => readOwnCss));
  }, [isWanted]);
  return source === undefined || read === null ? null : read(source);
}
