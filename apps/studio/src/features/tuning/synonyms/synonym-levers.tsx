'use client';

import type { SynonymGroup, TuningDocument } from '@yucca/contract';
import { memo, useMemo, useState, type FormEvent } from 'react';
import { Button } from '@/ui/button';
import { count } from '@/ui/format';
import { useDraftStore } from '../draft';
import { printSynonym, readSynonym } from '../levers';
import { RemoveButton } from '@/ui/controls';
import { SynonymEffect } from './effect';
import { SynonymExchange } from './exchange';
import { QuickEntry } from './quick-entry';
import { troublesIn, withMerged, type Trouble } from './troubles';

/** Groups shown at a time: thousands of them stay quick. */
const SHOWN = 30;
const TROUBLES = 3;

const withGroups = (document: TuningDocument, synonyms: readonly SynonymGroup[]): TuningDocument =>
  ({ ...document, synonyms }) as TuningDocument;

export const SynonymLevers = memo(function SynonymLevers({
  groups,
  collection,
  text,
}: {
  groups: SynonymGroup[];
  collection: string;
  /** The query in the probe. */
  text: string;
}) {
  const store = useDraftStore();
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const printed = useMemo(() => groups.map(printSynonym), [groups]);
  const troubles = useMemo(() => troublesIn(groups), [groups]);
  const found = printed
    .map((line, at) => ({ line, at }))
    .filter(({ line }) => typed === '' || line.toLowerCase().includes(typed.trim().toLowerCase()));
  const reading = useMemo(() => readSynonym(typed), [typed]);
  const isNew = reading.ok && !printed.includes(printSynonym(reading.group));
  const add = (more: readonly SynonymGroup[]): void =>
    store.change((now) => withGroups(now, [...((now.synonyms ?? []) as SynonymGroup[]), ...more]));
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (!reading.ok) return setProblem(reading.problem);
    if (!isNew) return setProblem('It is in the list already.');
    add([reading.group]);
    setTyped('');
    setProblem(null);
  };
  return (
    <>
      <form onSubmit={submit} className="flex gap-2">
        <input
          className="field text-[13px]"
          aria-label="Find or add a synonym"
          title="snake plant = sansevieria, or one way: succulent > agave, aloe"
          placeholder="snake plant = sansevieria"
          value={typed}
          onChange={(event) => {
            setTyped(event.target.value);
            setProblem(null);
          }}
        />
        <Button type="submit" disabled={typed.trim() === ''}>
          Add
        </Button>
      </form>
      {problem && (
        <p role="alert" className="text-[13px] text-madder">
          {problem}
        </p>
      )}
      {reading.ok && isNew && <SynonymEffect collection={collection} group={reading.group} text={text} />}
      <QuickEntry collection={collection} text={text} onAdd={(group) => add([group])} />
      <Troubles
        troubles={troubles}
        onMend={(trouble) => store.change((now) => withGroups(now, withMerged(groups, trouble)))}
      />
      <ul className="text-[13px]">
        {found.slice(0, SHOWN).map(({ line, at }) => (
          <li key={`${at} ${line}`} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate" title={line}>
              {line}
            </span>
            <RemoveButton
              what={line}
              onRemove={() =>
                store.change((now) => ({ ...now, synonyms: (now.synonyms ?? []).filter((_, i) => i !== at) }))
              }
            />
          </li>
        ))}
      </ul>
      {found.length > SHOWN && (
        <p className="text-xs text-soft">and {count(found.length - SHOWN)} more; type to find one</p>
      )}
      <SynonymExchange collection={collection} known={printed} onTake={add} />
    </>
  );
});

/** Groups that stand in each other's way. */
function Troubles({ troubles, onMend }: { troubles: readonly Trouble[]; onMend: (trouble: Trouble) => void }) {
  if (troubles.length === 0) return null;
  return (
    <ul
      className="grid gap-1 rounded-md border border-line bg-sunk px-2 py-1 text-[13px]"
      aria-label="Groups in each other’s way"
    >
      {troubles.slice(0, TROUBLES).map((trouble) => (
        <li key={trouble.sentence}>
          {trouble.sentence}{' '}
          <button type="button" className="link min-h-6" onClick={() => onMend(trouble)}>
            {trouble.merged ? 'Make them one' : 'Take it out'}
          </button>
        </li>
      ))}
      {troubles.length > TROUBLES && (
        <li className="text-soft">and {count(troubles.length - TROUBLES)} more like these</li>
      )}
    </ul>
  );
}
