import type { SearchAnswer } from '@yucca/contract';
import { Fragment } from 'react';
import { useTexts } from '../use-texts.ts';

/** What `ResultCount` is given. */
export interface ResultCountProps {
  answer: SearchAnswer;
  /** What was asked, for the answer that is shown. */
  asked: string;
}

/** How much was found, and how the words were understood where that is not plain. Read out when it changes. */
export function ResultCount({ answer, asked }: ResultCountProps) {
  const { say, pieces, oneOf } = useTexts();
  const { total, results, page, size, understood } = answer;
  // Grown pages begin with the first result.
  const first = results.length > size ? 1 : (page - 1) * size + 1;
  const last = first + results.length - 1;
  const misspelt = understood.words.filter(({ typo, as }) => typo && as.length > 0);
  const nearest = misspelt.map(({ as }) => as.slice(0, 2).join(', ')).join('; ');
  const notes = [
    results.length > 0 && results.length < total && say('shown', { first, last }),
    total > 0 && misspelt.length > 0 && say('respelt', { words: oneOf(misspelt.map(({ text }) => text)), nearest }),
    // Words that were given up so that something is found.
    total > 0 && understood.dropped.length > 0 && say('leftOut', { words: oneOf(understood.dropped) }),
  ];
  const found = pieces(
    asked === '' ? 'found' : 'foundFor',
    { total, query: asked },
    { total: (text) => <strong>{text}</strong> },
  );
  return (
    <p data-part="count" aria-live="polite">
      {found.map((piece, i) => (
        <Fragment key={i}>{piece}</Fragment>
      ))}
      {notes.map(
        (note, i) =>
          note && (
            <span key={`note${i}`} data-part="soft">
              {' '}
              · {note}
            </span>
          ),
      )}
    </p>
  );
}
