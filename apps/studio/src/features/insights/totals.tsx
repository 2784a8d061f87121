import type { Insights, InsightTotals } from '@yucca/contract';
import clsx from 'clsx';
import { count, milliseconds } from '@/ui/format';

interface Figure {
  label: string;
  what: string;
  read: (totals: InsightTotals) => number | null;
  write: (value: number) => string;
  /** Whether less of it is better; null = neither. */
  lessIsBetter: boolean | null;
}

const share = (of: number, all: number): number | null => (all > 0 ? of / all : null);
const percent = (value: number): string => `${(value * 100).toFixed(1)}%`;

const FIGURES: readonly Figure[] = [
  { label: 'Searches', what: 'What visitors meant: of a trail of keystrokes one', read: (t) => t.searches, write: count, lessIsBetter: null },
  { label: 'Visitors', what: 'Whoever asked, counted once a day', read: (t) => t.visitors, write: count, lessIsBetter: null },
  { label: 'Found nothing', what: 'Share of searches without a result', read: (t) => share(t.nothing, t.searches), write: percent, lessIsBetter: true },
  { label: 'With a click', what: 'Share of searches with a result opened', read: (t) => share(t.clicked, t.searches), write: percent, lessIsBetter: false },
  { label: 'Mean rank of click', what: 'Of the first result that was opened', read: (t) => t.meanPlace, write: (n) => n.toFixed(1), lessIsBetter: true },
  { label: 'Conversions', what: 'What the page is for was done', read: (t) => t.conversions, write: count, lessIsBetter: false },
  { label: 'Median time', what: 'Of an answer, on the server', read: (t) => t.p50Ms, write: milliseconds, lessIsBetter: true },
  { label: 'p95 time', what: 'Of 20 answers the slowest but one', read: (t) => t.p95Ms, write: milliseconds, lessIsBetter: true },
]; // prettier-ignore

/** The sums of a range, each with what it was in the days before. */
export function Totals({ insights: { totals, totalsBefore } }: { insights: Insights }) {
  return (
    <dl className="flex flex-wrap gap-x-4 gap-y-2">
      {FIGURES.map(({ label, what, read, write, lessIsBetter }) => {
        const now = read(totals);
        const before = read(totalsBefore);
        return (
          <div key={label} title={what}>
            <dt className="text-xs text-soft">{label}</dt>
            <dd className="figures">
              <span className="text-[17px]">{now === null ? '–' : write(now)}</span>{' '}
              {now !== null && before !== null && before > 0 && (
                <Change by={now / before - 1} was={write(before)} lessIsBetter={lessIsBetter} />
              )}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

function Change({ by, was, lessIsBetter }: { by: number; was: string; lessIsBetter: boolean | null }) {
  if (Math.abs(by) < 0.005) return <span className="text-xs text-soft">±0</span>;
  const better = lessIsBetter === null ? null : by < 0 === lessIsBetter;
  return (
    <span
      title={`${was} in the days before`}
      className={clsx('text-xs', better === null ? 'text-soft' : better ? 'text-agave' : 'text-clay')}
    >
      {by > 0 ? '+' : '−'}
      {Math.round(Math.abs(by) * 100)}%
    </span>
  );
}
