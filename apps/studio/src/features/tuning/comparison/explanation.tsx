import type { Card, SearchResult, Why } from '@yucca/contract';
import { shownHit } from '@yucca/kit';
import clsx from 'clsx';
import { useState } from 'react';
import { count } from '@/ui/format';
import { decisionBetween, decisionSentence } from './decision';

const HOW = {
  exact: 'as written',
  synonym: 'synonym',
  stem: 'other form',
  joined: 'joined',
  split: 'split',
  compound: 'in a compound',
  phrase: 'phrase',
  prefix: 'beginning',
  typo: 'typo',
} as const;

interface ExplanationProps {
  result: SearchResult;
  why: Why;
  row: number;
  /** All results of its column, in their order. */
  others: readonly SearchResult[];
  card: Card;
}

/** The four numbers that place a result, where its points for words come from, and what decides against another. */
export function Explanation({ result, why, row, others, card }: ExplanationProps) {
  return (
    <>
      <p className="figures mb-2 text-[13px] text-soft">{result.id}</p>
      <dl className="figures mb-3 grid grid-cols-5 gap-2 text-center text-[13px]">
        {(
          [
            ['words', why.words],
            ['typos', why.typos],
            ['text', why.text.toFixed(1)],
            ['signals', why.signals.toFixed(1)],
            ['score', why.score.toFixed(1)],
          ] as const
        ).map(([name, value]) => (
          <div key={name} className="rounded bg-sunk py-1">
            <dt className="text-xs text-soft">{name}</dt>
            <dd className="font-medium">{value}</dd>
          </div>
        ))}
      </dl>
      {why.whole && (
        <p className="mb-2 text-[13px]">
          {why.whole.isCode ? 'A code' : 'A value'} of <span className="figures">{why.whole.field}</span> is the very
          query, so it stands before records that only hold it.
        </p>
      )}
      {why.parts.length === 0 ? (
        <p className="text-[13px] text-soft">No words were asked for: signals and record order place it.</p>
      ) : (
        <table className="w-full text-[13px]">
          <thead className="text-left text-xs text-soft">
            <tr>
              {['Typed', 'Found', 'How', 'In', 'Points'].map((name, i) => (
                <th key={name} scope="col" className={clsx('pr-2 font-normal', i === 4 && 'text-right')}>
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {why.parts.map((part, i) => (
              <tr key={i} className="border-t border-line">
                <td className="py-1 pr-2">{part.word}</td>
                <td className="py-1 pr-2">{part.matched}</td>
                <td className="py-1 pr-2">
                  {HOW[part.how]}
                  {part.typos !== undefined && part.typos > 0 && ` (${count(part.typos)})`}
                </td>
                <td className="figures max-w-28 truncate py-1 pr-2 text-xs">{part.field}</td>
                <td className="figures py-1 text-right">{part.points.toFixed(1)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Against result={result} row={row} others={others} card={card} />
    </>
  );
}

/** What decides between a result and another one of the same answer. */
function Against({ result, row, others, card }: Omit<ExplanationProps, 'why'>) {
  const [other, setOther] = useState(row === 0 ? 1 : row - 1);
  const found = others[other];
  if (!found)
    return (
      <p className="mt-2 text-xs text-soft">
        More words stand first, then fewer typos, then values that are the query, then the score.
      </p>
    );
  const nameOf = (one: SearchResult): string => shownHit(one, card).title.text;
  const [upper, lower] = other < row ? [found, result] : [result, found];
  const decision = decisionBetween(upper, lower);
  return (
    <div className="mt-3 border-t border-line pt-2 text-[13px]">
      <label className="mb-1 flex items-center gap-2 text-soft">
        {other < row ? 'Below' : 'Above'}
        <select
          className="field h-7 min-h-0 py-0 text-[13px]"
          value={other}
          onChange={(event) => setOther(Number(event.target.value))}
        >
          {others.map((one, at) =>
            at === row ? null : (
              <option key={one.id} value={at}>
                {at + 1}. {nameOf(one)}
              </option>
            ),
          )}
        </select>
      </label>
      <p>{decision && decisionSentence(decision, nameOf(upper), nameOf(lower))}</p>
    </div>
  );
}
