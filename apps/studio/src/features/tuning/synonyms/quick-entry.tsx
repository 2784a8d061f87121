'use client';

import type { SynonymGroup, TrialAnswer } from '@yucca/contract';
import clsx from 'clsx';
import { useEffect, useId, useState } from 'react';
import { api } from '@/ui/api';
import { later } from '@/ui/later';
import { Button } from '@/ui/button';
import { BENCH_FIRST_MS } from '../kept-queries';
import { useDraft } from '../draft';
import { wordList } from '../levers';
import { variantsOf } from './variants';

const TITLES = { forms: 'Other forms', sounds: 'As it sounds', slips: 'Slips' } as const;

/**
 * Other ways to write one word: forms, what it sounds like, slips of the hand. Those that find nothing today are told,
 * and one press lets them find the word.
 */
export function QuickEntry({
  collection,
  text,
  onAdd,
}: {
  collection: string;
  /** The query in the probe: what is offered at first. */
  text: string;
  onAdd: (group: SynonymGroup) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <details className="text-[13px]" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="link min-h-6 w-fit">Other spellings of a word …</summary>
      {open && <Form collection={collection} start={text.trim()} onAdd={onAdd} />}
    </details>
  );
}

function Form({
  collection,
  start,
  onAdd,
}: {
  collection: string;
  start: string;
  onAdd: (group: SynonymGroup) => void;
}) {
  const id = useId();
  const [word, setWord] = useState(start);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [own, setOwn] = useState('');
  const variants = variantsOf(word);
  const all = [...variants.forms, ...variants.sounds, ...variants.slips];
  const lost = useLost(collection, all);
  const from = [...new Set([...chosen, ...wordList(own)])];
  const toggle = (one: string): void =>
    setChosen((now) => (now.includes(one) ? now.filter((other) => other !== one) : [...now, one]));
  return (
    <div className="mt-1 grid gap-2 rounded-md border border-line p-2">
      <label className="grid gap-0.5" htmlFor={id}>
        The word as your data has it
        <input
          id={id}
          className="field min-h-7 py-0.5 text-[13px]"
          value={word}
          onChange={(event) => {
            setWord(event.target.value);
            setChosen([]);
          }}
        />
      </label>
      {(Object.keys(TITLES) as (keyof typeof TITLES)[]).map(
        (kind) =>
          variants[kind].length > 0 && (
            <fieldset key={kind}>
              <legend className="text-xs text-soft">{TITLES[kind]}</legend>
              <div className="flex flex-wrap gap-1">
                {variants[kind].map((one) => (
                  <button
                    key={one}
                    type="button"
                    aria-pressed={chosen.includes(one)}
                    title={lost?.has(one) ? 'Finds nothing in the draft' : 'Finds something in the draft already'}
                    className={clsx(
                      'min-h-6 rounded border px-1.5',
                      chosen.includes(one) ? 'border-ink bg-ink text-paper' : 'border-line hover:border-field-line',
                      !chosen.includes(one) && !lost?.has(one) && 'text-soft',
                    )}
                    onClick={() => toggle(one)}
                  >
                    {one}
                    {lost?.has(one) && <span className={chosen.includes(one) ? '' : 'text-clay'}> finds nothing</span>}
                  </button>
                ))}
              </div>
            </fieldset>
          ),
      )}
      <label className="grid gap-0.5">
        Others, with commas
        <input
          className="field min-h-7 py-0.5 text-[13px]"
          value={own}
          onChange={(event) => setOwn(event.target.value)}
        />
      </label>
      <p className="flex flex-wrap gap-2">
        {lost !== null && lost.size > 0 && (
          <Button onClick={() => setChosen([...lost])}>Choose all that find nothing</Button>
        )}
        <Button
          kind="primary"
          disabled={from.length === 0 || word.trim() === ''}
          onClick={() => {
            onAdd({ kind: 'oneWay', from, to: [word.trim().toLowerCase()] });
            setChosen([]);
            setOwn('');
          }}
        >
          Let them find “{word.trim().toLowerCase()}”
        </Button>
      </p>
    </div>
  );
}

/** Which of some words find nothing in the draft; null while that is not known. */
function useLost(collection: string, words: readonly string[]): ReadonlySet<string> | null {
  const [{ document, saves }] = useDraft();
  const [lost, setLost] = useState<ReadonlySet<string> | null>(null);
  const asked = words.join('\n');
  useEffect(() => {
    if (asked === '') return;
    return later(BENCH_FIRST_MS, (signal) => {
      api<TrialAnswer>(`/collections/${collection}/tuning/trial`, {
        method: 'POST',
        // A space after it: the word is finished, and no beginning of another.
        json: { tuning: document, queries: asked.split('\n').map((word) => `${word} `) },
        signal,
      }).then(
        ({ effects }) =>
          setLost(new Set(effects.filter(({ before }) => before.total === 0).map(({ query }) => query.trim()))),
        // What finds nothing is a help: without it the words can be chosen all the same.
        () => {},
      );
    });
    // The document is what `saves` counts.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [collection, asked, saves]);
  return lost;
}
