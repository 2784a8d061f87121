'use client';

import type { Tuning, TypoExample, TypoExamples } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { count, counted } from '@/ui/format';
import { later } from '@/ui/later';
import { useDraft, useDraftStore } from '../draft';
import { BENCH_FIRST_MS } from '../kept-queries';
import { withTypos } from '../levers';
import { Check, Slider } from '@/ui/controls';
import { WordsField } from './words-field';

export function TypoLevers({ tuning: { typos, search }, collection }: { tuning: Tuning; collection: string }) {
  const store = useDraftStore();
  const set = (change: Parameters<typeof withTypos>[1], gesture: string | null = null): void =>
    store.change((now) => withTypos(now, change), { gesture });
  return (
    <>
      <Check label="Typo tolerance" on={typos.enabled} onValue={(enabled) => set({ enabled })} />
      {typos.enabled && (
        <>
          <Slider
            label="One, from letters"
            min={1}
            max={12}
            most={100}
            value={typos.oneFrom}
            onValue={(oneFrom) => set({ oneFrom: Math.round(oneFrom) }, 'oneFrom')}
          />
          <Slider
            label="Two, from letters"
            min={1}
            max={16}
            most={100}
            value={typos.twoFrom}
            onValue={(twoFrom) => set({ twoFrom: Math.round(twoFrom) }, 'twoFrom')}
          />
          <Check
            label="The first letter may be wrong"
            on={typos.firstLetter}
            onValue={(firstLetter) => set({ firstLetter })}
          />
          <Check label="Words with digits may hold typos" on={typos.numbers} onValue={(numbers) => set({ numbers })} />
          <WordsField
            label="Words without typo tolerance"
            words={typos.exactWords}
            onWords={(exactWords) => set({ exactWords })}
          />
          {search.length > 0 && (
            <fieldset className="text-[13px]">
              <legend>Fields without typo tolerance</legend>
              <div className="flex flex-wrap gap-x-3">
                {search.map(({ field }) => (
                  <Check
                    key={field}
                    label={field}
                    on={typos.exactFields.includes(field)}
                    onValue={(on) =>
                      set({
                        exactFields: on
                          ? [...typos.exactFields, field]
                          : typos.exactFields.filter((one) => one !== field),
                      })
                    }
                  />
                ))}
              </div>
            </fieldset>
          )}
        </>
      )}
      <Examples collection={collection} onExact={(word) => set({ exactWords: [...typos.exactWords, word] })} />
    </>
  );
}

/** What the draft's rules take for what, and live's do not, on the commonest words of the data. */
function Examples({ collection, onExact }: { collection: string; onExact: (word: string) => void }) {
  const [{ saves }] = useDraft();
  const [examples, setExamples] = useState<TypoExamples | null>(null);
  useEffect(() => {
    return later(BENCH_FIRST_MS, (signal) => {
      api<TypoExamples>(`/collections/${collection}/tuning/draft/typos`, { signal }).then(
        setExamples,
        // Examples are a help: without them the levers work all the same.
        () => {},
      );
    });
  }, [collection, saves]);
  if (examples === null || examples.tried === 0) return null;
  const { tried, gained, lost, gainedCount, lostCount } = examples;
  if (gainedCount + lostCount === 0)
    return (
      <p className="text-xs text-soft">None of the {count(tried)} commonest words is read otherwise than under live.</p>
    );
  return (
    <div className="text-[13px]" role="group" aria-label="Examples of typos" aria-live="polite">
      {gainedCount > 0 && (
        <ExampleList title="Now also taken for" total={gainedCount} examples={gained} onExact={onExact} />
      )}
      {lostCount > 0 && <ExampleList title="No longer taken for" total={lostCount} examples={lost} />}
      <p className="text-xs text-soft">Against live, on the {count(tried)} commonest words of the data.</p>
    </div>
  );
}

function ExampleList({
  title,
  total,
  examples,
  onExact,
}: {
  title: string;
  total: number;
  examples: readonly TypoExample[];
  onExact?: (word: string) => void;
}) {
  return (
    <>
      <p className="mt-1">
        {title} <span className="figures text-xs text-soft">{counted(total, 'pair')}</span>
      </p>
      <ul>
        {examples.map(({ typed, as, records }) => (
          <li key={typed} className="flex items-center gap-1.5">
            <span className="min-w-0 truncate">
              {typed} <span className="text-soft">as</span> {as}
            </span>
            <span className="figures text-xs text-soft">{counted(records, 'record')}</span>
            {onExact && (
              <button
                type="button"
                className="link ml-auto min-h-6 shrink-0 text-xs"
                title={`“${typed}” without typo tolerance`}
                onClick={() => onExact(typed)}
              >
                not {typed}
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
