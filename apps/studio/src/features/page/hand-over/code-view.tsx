'use client';

import { css } from '@codemirror/lang-css';
import { html } from '@codemirror/lang-html';
import { javascript } from '@codemirror/lang-javascript';
import { json } from '@codemirror/lang-json';
import { markdown } from '@codemirror/lang-markdown';
import { EditorState, type Extension } from '@codemirror/state';
import { useCodeEditor } from '@/ui/use-code-editor';

/** What a file is written in, by the end of its name. */
function languageOf(path: string): Extension[] {
  if (/\.(tsx?|mjs|js)$/.test(path)) return [javascript({ jsx: path.endsWith('x'), typescript: /\.tsx?$/.test(path) })];
  if (path.endsWith('.json')) return [json()];
  if (path.endsWith('.html')) return [html()];
  if (path.endsWith('.md')) return [markdown()];
  return path.endsWith('.css') ? [css()] : [];
}

/** A file to be read: its code with its parts told apart. */
export default function CodeView({ path, text }: { path: string; text: string }) {
  const { box } = useCodeEditor({
    text,
    label: path,
    extensions: () => [EditorState.readOnly.of(true), ...languageOf(path)],
    onText: () => {},
  });
  return <div ref={box} className="min-h-0 flex-1 overflow-hidden" />;
}
