import type { SearchAnswer } from '@yucca/contract';
import { count, counted } from '../../figures.ts';

export interface ResultCountProps {
  answer: SearchAnswer;
  /** What was asked, for the answer that is shown. */
  asked: string;
}

/** How much was found, and how the words were understood where that is not plain. Read out when it changes. */
export function ResultCount({ answer, asked }: ResultCountProps) {
  const { total, results, page, size } = answer;
  const isPart = results.length > 0 && results.length < total;
  // Grown pages begin with the first result.
  const first = results.length > size ? 1 : (page - 1) * size + 1;
  return (
    <p data-part="count" aria-live="polite">
      <strong>{counted(total, 'result')}</strong>
      {asked !== '' && ` for “${asked}”`}
      {isPart && (
        <span data-part="soft">
          , {count(first)} to {count(first + results.length - 1)} shown
        </span>
      )}
      <Misread answer={answer} />
      <LeftOut answer={answer} />
    </p>
  );
}

function Misread({ answer }: { answer: SearchAnswer }) {
  const misspelt = answer.understood.words.filter(({ typo, as }) => typo && as.length > 0);
  if (misspelt.length === 0 || answer.total === 0) return null;
  return (
    <span data-part="soft">
      . Nothing is spelt {misspelt.map(({ text }) => `“${text}”`).join(', ')}; showing what comes nearest:{' '}
      {misspelt.map(({ as }) => as.slice(0, 2).join(', ')).join('; ')}
    </span>
  );
}

/** Words that were given up so that something is found. */
function LeftOut({ answer }: { answer: SearchAnswer }) {
  const { dropped } = answer.understood;
  if (dropped.length === 0 || answer.total === 0) return null;
  return (
    <span data-part="soft"> without {dropped.map((word) => `“${word}”`).join(', ')}: nothing holds every word</span>
  );
}
