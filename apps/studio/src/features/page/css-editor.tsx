'use client';

import {
  autocompletion,
  completionKeymap,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { css, cssLanguage } from '@codemirror/lang-css';
import { setDiagnostics } from '@codemirror/lint';
import { keymap } from '@codemirror/view';
import { useEffect } from 'react';
import type { CssProblem } from '@/text/own-css';
import { useCodeEditor } from '@/ui/use-code-editor';

/** Parts of a page by their names in the kit, with what they are. */
const PARTS: readonly (readonly [name: string, about: string])[] = [
  ['bar', 'search field and button'],
  ['input', 'where one types'],
  ['submit', 'the button beside it'],
  ['popup', 'what the field offers'],
  ['section', 'rows under one heading'],
  ['offer', 'a row'],
  ['preview', 'the record that is pointed at'],
  ['body', 'filters and results'],
  ['filters', 'all filters'],
  ['facet', 'one filter'],
  ['facet-value', 'a value to tick'],
  ['facet-bar', 'the bar behind a count'],
  ['swatch', 'the colour of a value'],
  ['range', 'the slider of numbers'],
  ['results', 'summary, results, pages'],
  ['summary', 'count, choices, sorts'],
  ['count', 'how many were found'],
  ['choice', 'a choice to take back'],
  ['sort', 'sorts'],
  ['list', 'the list of results'],
  ['card', 'one result'],
  ['card-body', 'its texts'],
  ['card-detail', 'its second line'],
  ['card-text', 'its text'],
  ['card-number', 'its number'],
  ['card-former', 'the number before'],
  ['nothing', 'when nothing was found'],
  ['pages', 'numbered pages'],
  ['more', 'the button for more'],
];

function completeParts(context: CompletionContext): CompletionResult | null {
  const word = context.matchBefore(/\[?[\w-]*/);
  if (!word || (word.from === word.to && !context.explicit)) return null;
  // Inside of a rule it is a property that is wanted; the language knows those.
  const before = context.state.sliceDoc(0, word.from);
  if (before.lastIndexOf('{') > before.lastIndexOf('}')) return null;
  const options = PARTS.map(([name, detail]) => ({ label: `[data-part=${name}]`, detail, type: 'class' }));
  return { from: word.from, options, validFor: /^\[?[\w-=]*$/ };
}

const extensions = () => [
  css(),
  cssLanguage.data.of({ autocomplete: completeParts }),
  autocompletion(),
  keymap.of([...completionKeymap]),
];

/** A style sheet to be edited, with its problems in their places. */
export default function CssEditor({
  text,
  problems,
  onText,
}: {
  text: string;
  problems: readonly CssProblem[];
  onText: (text: string) => void;
}) {
  const { box, view } = useCodeEditor({ text, label: 'Own CSS', extensions, onText });
  useEffect(() => {
    const editor = view.current;
    if (editor === null) return;
    const { doc } = editor.state;
    const diagnostics = problems.map(({ line, column, detail }) => {
      const at = doc.line(Math.min(line, doc.lines));
      const from = Math.min(at.from + column - 1, at.to);
      return { from, to: Math.max(from, at.to), severity: 'error' as const, message: detail };
    });
    editor.dispatch(setDiagnostics(editor.state, diagnostics));
  }, [view, problems]);
  return <div ref={box} className="h-80 overflow-hidden rounded-md border border-field-line" />;
}
