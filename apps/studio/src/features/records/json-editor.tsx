'use client';

import { defaultKeymap, history, historyKeymap, indentWithTab } from '@codemirror/commands';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { bracketMatching, HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { linter, lintGutter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { useEffect, useRef } from 'react';
import { pageNonce } from '@/ui/page-nonce';

// Names and values apart, in the two inks and the one accent there are; no colour here means live, draft or a mark.
const highlight = HighlightStyle.define([
  { tag: tags.propertyName, color: 'var(--ink)', fontWeight: '500' },
  { tag: tags.string, color: 'var(--plum)' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--agave)' },
  { tag: tags.punctuation, color: 'var(--ink-soft)' },
]);

const look = EditorView.theme({
  '&': { height: '100%', fontSize: '13px', backgroundColor: 'var(--raised)', color: 'var(--ink)' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '20px' },
  '.cm-gutters': { backgroundColor: 'var(--sunk)', color: 'var(--ink-soft)', border: 'none' },
  '.cm-activeLine': { backgroundColor: 'color-mix(in srgb, var(--sunk) 50%, transparent)' },
  '.cm-activeLineGutter': { backgroundColor: 'var(--line)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused': { outline: '2px solid var(--agave)' },
  '.cm-selectionBackground, &.cm-focused .cm-selectionBackground': { backgroundColor: 'var(--agave-tint) !important' },
  '.cm-tooltip': { backgroundColor: 'var(--paper)', border: '1px solid var(--line)', color: 'var(--ink)' },
});

/** Text as JSON, with what is wrong shown in its place. Escape, then Tab, leaves the field. */
export function JsonEditor({ text, label, onText }: { text: string; label: string; onText: (text: string) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(onText);
  const start = useRef(text);
  useEffect(() => {
    latest.current = onText;
  });
  useEffect(() => {
    const editor = new EditorView({
      parent: box.current!,
      state: EditorState.create({
        doc: start.current,
        extensions: [
          lineNumbers(),
          history(),
          bracketMatching(),
          highlightActiveLine(),
          json(),
          linter(jsonParseLinter()),
          lintGutter(),
          syntaxHighlighting(highlight),
          look,
          EditorView.cspNonce.of(pageNonce()),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label }),
          keymap.of([...defaultKeymap, ...historyKeymap, indentWithTab]),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) latest.current(update.state.doc.toString());
          }),
        ],
      }),
    });
    view.current = editor;
    return () => editor.destroy();
  }, [label]);
  useEffect(() => {
    const editor = view.current;
    if (editor === null || editor.state.doc.toString() === text) return;
    editor.dispatch({ changes: { from: 0, to: editor.state.doc.length, insert: text } });
  }, [text]);
  return <div ref={box} className="min-h-0 flex-1 overflow-hidden rounded-md border border-field-line" />;
}
