import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { bracketMatching, syntaxHighlighting } from '@codemirror/language';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView, keymap, lineNumbers } from '@codemirror/view';
import { useEffect, useRef, type RefObject } from 'react';
import { editorHighlight, editorLook } from './editor-look';
import { pageNonce } from './page-nonce';

export interface CodeEditorOptions {
  text: string;
  label: string;
  /** What belongs to its language. Read once. */
  extensions: () => readonly Extension[];
  onText: (text: string) => void;
}

/** An editor of code in an element. A text that comes from elsewhere takes the place of the one in it. */
export function useCodeEditor({ text, label, extensions, onText }: CodeEditorOptions): {
  box: RefObject<HTMLDivElement | null>;
  view: RefObject<EditorView | null>;
} {
  const box = useRef<HTMLDivElement>(null);
  const view = useRef<EditorView | null>(null);
  const latest = useRef(onText);
  const start = useRef({ text, extensions });
  useEffect(() => {
    latest.current = onText;
  });
  useEffect(() => {
    const editor = new EditorView({
      parent: box.current!,
      state: EditorState.create({
        doc: start.current.text,
        extensions: [
          lineNumbers(),
          history(),
          bracketMatching(),
          start.current.extensions(),
          syntaxHighlighting(editorHighlight),
          editorLook,
          EditorView.cspNonce.of(pageNonce()),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': label }),
          keymap.of([...defaultKeymap, ...historyKeymap]),
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
  return { box, view };
}
