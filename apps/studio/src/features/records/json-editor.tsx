'use client';

import { indentWithTab } from '@codemirror/commands';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { linter, lintGutter } from '@codemirror/lint';
import { highlightActiveLine, keymap } from '@codemirror/view';
import { useCodeEditor } from '@/ui/use-code-editor';

const extensions = () => [
  highlightActiveLine(),
  json(),
  linter(jsonParseLinter()),
  lintGutter(),
  keymap.of([indentWithTab]),
];

/** Text as JSON, with what is wrong shown in its place. Escape, then Tab, leaves the field. */
export function JsonEditor({ text, label, onText }: { text: string; label: string; onText: (text: string) => void }) {
  const { box } = useCodeEditor({ text, label, extensions, onText });
  return <div ref={box} className="min-h-0 flex-1 overflow-hidden rounded-md border border-field-line" />;
}
