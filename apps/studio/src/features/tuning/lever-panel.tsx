'use client';

import { completeTuning, type SynonymGroup, type Tuning } from '@yucca/contract';
import Link from 'next/link';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Button } from '@/ui/button';
import { count } from '@/ui/format';
import { useDraft } from './draft';
import { printSynonym, readSynonym, withFieldWeight, withSignalPart, withTypos, withWords, wordList } from './levers';

/** Everything that decides what is found and what stands first. Every change is a change of the draft, at once. */
export function LeverPanel({ collection }: { collection: string }) {
  const [{ document }] = useDraft();
  const tuning = completeTuning(document);
  return (
    <div
      className="relative w-[340px] shrink-0 overflow-y-auto border-r border-line bg-raised"
      tabIndex={0}
      role="region"
      aria-label="Levers"
    >
      <Group title="Fields and weights">
        <Weights tuning={tuning} collection={collection} />
      </Group>
      <Group title="Words">
        <WordLevers tuning={tuning} />
      </Group>
      <Group title="Typos">
        <TypoLevers tuning={tuning} />
      </Group>
      <Group title="Business numbers">
        <SignalLevers tuning={tuning} collection={collection} />
      </Group>
      <Group title={`Synonyms (${count(tuning.synonyms.length)})`}>
        <Synonyms groups={tuning.synonyms} />
      </Group>
    </div>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details open className="border-b border-line px-4 py-2">
      <summary className="min-h-6 font-head font-semibold">{title}</summary>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-2 pt-1 pb-2">{children}</div>
    </details>
  );
}

/** A number on a slider with its value beside it. */
function Slider({
  label,
  value,
  min,
  max,
  step = 1,
  unit = '',
  onValue,
}: {
  label: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  unit?: string;
  onValue: (value: number) => void;
}) {
  return (
    <label className="grid grid-cols-[1fr_110px_52px] items-center gap-2 text-[13px]">
      <span className="truncate" title={label}>
        {label}
      </span>
      <input
        type="range"
        className="h-6 w-full accent-(--agave)"
        aria-label={label}
        min={min}
        max={Math.max(max, value)}
        step={step}
        value={value}
        onChange={(event) => onValue(Number(event.target.value))}
      />
      <span className="figures text-right">
        {Number(value.toFixed(2))}
        {unit}
      </span>
    </label>
  );
}

function Weights({ tuning, collection }: { tuning: Tuning; collection: string }) {
  const [, store] = useDraft();
  const fields = [...tuning.search].sort((a, b) => b.weight - a.weight);
  if (fields.length === 0)
    return (
      <p className="text-[13px] text-soft">
        All text fields are searched alike.{' '}
        <Link className="link" href={`/c/${collection}/fields`}>
          Choose fields
        </Link>
      </p>
    );
  return (
    <>
      {fields.map(({ field, weight }) => (
        <Slider
          key={field}
          label={field}
          min={0.5}
          max={20}
          step={0.5}
          value={weight}
          onValue={(next) => store.change((now) => withFieldWeight(now, field, next), { gesture: `weight ${field}` })}
        />
      ))}
    </>
  );
}

function Choice<T extends string>({
  label,
  value,
  options,
  onValue,
}: {
  label: string;
  value: T;
  options: readonly [T, string][];
  onValue: (value: T) => void;
}) {
  return (
    <label className="grid grid-cols-[1fr_170px] items-center gap-2 text-[13px]">
      {label}
      <select className="field py-0.5" value={value} onChange={(event) => onValue(event.target.value as T)}>
        {options.map(([name, words]) => (
          <option key={name} value={name}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

function Check({ label, on, onValue }: { label: string; on: boolean; onValue: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-2 text-[13px]">
      <input type="checkbox" checked={on} onChange={(event) => onValue(event.target.checked)} />
      {label}
    </label>
  );
}

/** A list of words as text: taken over when the field is left, so that half a word is never searched for. */
function WordsField({ label, words, onWords }: { label: string; words: string[]; onWords: (words: string[]) => void }) {
  const [text, setText] = useState<string | null>(null);
  return (
    <label className="block text-[13px]">
      {label}
      <textarea
        className="field mt-0.5 text-[13px]"
        rows={2}
        spellCheck={false}
        value={text ?? words.join(', ')}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => {
          if (text !== null) onWords(wordList(text));
          setText(null);
        }}
      />
    </label>
  );
}

function WordLevers({ tuning: { words, stems, stopWords } }: { tuning: Tuning }) {
  const [, store] = useDraft();
  return (
    <>
      <Choice
        label="Words required"
        value={words.require}
        options={[
          ['all', 'all of them'],
          ['most', 'as many as possible'],
          ['any', 'any of them'],
        ]}
        onValue={(require) => store.change((now) => withWords(now, { require }))}
      />
      <Choice
        label="Unfinished words"
        value={words.prefix}
        options={[
          ['last', 'the last one'],
          ['all', 'all of them'],
          ['none', 'none'],
        ]}
        onValue={(prefix) => store.change((now) => withWords(now, { prefix }))}
      />
      <Check
        label="Find other forms of a word"
        on={stems}
        onValue={(on) => store.change((now) => ({ ...now, stems: on }))}
      />
      <WordsField
        label="Words that may be missing"
        words={stopWords}
        onWords={(list) => store.change((now) => ({ ...now, stopWords: list }))}
      />
    </>
  );
}

function TypoLevers({ tuning: { typos } }: { tuning: Tuning }) {
  const [, store] = useDraft();
  const set = (change: Parameters<typeof withTypos>[1], gesture: string | null = null): void =>
    store.change((now) => withTypos(now, change), { gesture });
  return (
    <>
      <Check label="Forgive typos" on={typos.enabled} onValue={(enabled) => set({ enabled })} />
      {typos.enabled && (
        <>
          <Slider
            label="One, from letters"
            min={1}
            max={12}
            value={typos.oneFrom}
            onValue={(oneFrom) => set({ oneFrom }, 'oneFrom')}
          />
          <Slider
            label="Two, from letters"
            min={1}
            max={16}
            value={typos.twoFrom}
            onValue={(twoFrom) => set({ twoFrom }, 'twoFrom')}
          />
          <Check
            label="The first letter may be wrong"
            on={typos.firstLetter}
            onValue={(firstLetter) => set({ firstLetter })}
          />
          <Check label="Words with digits may hold typos" on={typos.numbers} onValue={(numbers) => set({ numbers })} />
          <WordsField
            label="Words to be typed right"
            words={typos.exactWords}
            onWords={(exactWords) => set({ exactWords })}
          />
        </>
      )}
    </>
  );
}

function SignalLevers({ tuning: { signals, signalShare }, collection }: { tuning: Tuning; collection: string }) {
  const [, store] = useDraft();
  if (signals.length === 0)
    return (
      <p className="text-[13px] text-soft">
        None: words alone decide.{' '}
        <Link className="link" href={`/c/${collection}/fields`}>
          Choose one under Fields
        </Link>
      </p>
    );
  return (
    <>
      <Slider
        label="Share against words"
        min={0}
        max={1}
        step={0.05}
        value={signalShare}
        onValue={(share) => store.change((now) => ({ ...now, signalShare: share }), { gesture: 'share' })}
      />
      {signals.map(({ field, weight, shape }) => (
        <div key={field} className="grid gap-1">
          <Slider
            label={field}
            min={0.5}
            max={10}
            step={0.5}
            value={weight}
            onValue={(next) =>
              store.change((now) => withSignalPart(now, field, { weight: next }), { gesture: `signal ${field}` })
            }
          />
          <Choice
            label="on a shape"
            value={shape}
            options={[
              ['linear', 'linear'],
              ['log', 'log: few large ones'],
              ['recency', 'recency: the newer'],
            ]}
            onValue={(next) => store.change((now) => withSignalPart(now, field, { shape: next }))}
          />
        </div>
      ))}
    </>
  );
}

/** Groups shown at a time: thousands of them stay quick. */
const SHOWN = 30;

function Synonyms({ groups }: { groups: SynonymGroup[] }) {
  const [, store] = useDraft();
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const printed = groups.map(printSynonym);
  const found = printed
    .map((line, at) => ({ line, at }))
    .filter(({ line }) => text === '' || line.includes(text.trim()));
  const add = (event: FormEvent): void => {
    event.preventDefault();
    const reading = readSynonym(text);
    if (!reading.ok) return setProblem(reading.problem);
    if (printed.includes(printSynonym(reading.group))) return setProblem('It is in the list already.');
    store.change((now) => ({ ...now, synonyms: [...(now.synonyms ?? []), reading.group] }) as typeof now);
    setText('');
    setProblem(null);
  };
  const remove = (at: number): void =>
    store.change((now) => ({ ...now, synonyms: (now.synonyms ?? []).filter((_, i) => i !== at) }));
  return (
    <>
      <form onSubmit={add} className="flex gap-2">
        <input
          className="field text-[13px]"
          aria-label="Find or add a synonym"
          title="snake plant = sansevieria, or one way: succulent > agave, aloe"
          placeholder="snake plant = sansevieria"
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setProblem(null);
          }}
        />
        <Button type="submit" disabled={text.trim() === ''}>
          Add
        </Button>
      </form>
      {problem && (
        <p role="alert" className="text-[13px] text-madder">
          {problem}
        </p>
      )}
      <ul className="text-[13px]">
        {found.slice(0, SHOWN).map(({ line, at }) => (
          <li key={line} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate" title={line}>
              {line}
            </span>
            <button
              type="button"
              aria-label={`Remove ${line}`}
              className="grid size-6 place-items-center rounded hover:text-madder"
              onClick={() => remove(at)}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      {found.length > SHOWN && (
        <p className="text-xs text-soft">and {count(found.length - SHOWN)} more; type to find one</p>
      )}
    </>
  );
}
