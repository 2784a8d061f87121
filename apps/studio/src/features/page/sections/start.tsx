'use client';

import type { SearchAnswer, ShelfDocument } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { AddChoice, Check, RemoveButton } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { draggable, ItemHead, MoveButtons, moved, Setting } from '../setting';
import { WholeNumber } from './plain-inputs';

const SOURCES: Record<ShelfDocument['from'], string> = {
  popular: 'what stands first, before a search',
  sorted: 'first by a sort, before a search',
  chosen: 'chosen records, before a search',
  viewed: 'what this visitor looked at, below all else',
  found: 'what another collection has for the search',
};
const KINDS = Object.keys(SOURCES) as ShelfDocument['from'][];

/** What stands on the page before a letter is typed, and rows of records beside the results. */
export function StartSettings({ facts }: { facts: PageFacts }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { start = {}, shelves = [] } = document;
  const setStart = (next: typeof start): void =>
    set('start', Object.keys(next).length === 0 ? undefined : next, 'start');
  const put = (next: ShelfDocument[], gesture?: string): void =>
    set('shelves', next.length === 0 ? undefined : next, gesture);
  const change = (at: number, part: Partial<ShelfDocument>, gesture?: string): void =>
    put(shelves.map((shelf, i) => (i === at ? { ...shelf, ...part } : shelf)), gesture); // prettier-ignore
  const move = (from: number, to: number): void => put(moved(shelves, from, to));
  const { sorts } = facts.parts;
  const others = facts.collections.filter(({ name }) => name !== facts.collection);
  const possible = KINDS.filter(
    (kind) => (kind !== 'sorted' || sorts.length > 0) && (kind !== 'found' || others.length > 0),
  );
  const add = (from: ShelfDocument['from']): void => {
    const label = { popular: 'Popular now', sorted: sorts[0]?.label ?? '', chosen: 'Our choice', viewed: 'Looked at before', found: others[0]?.title ?? '' }[from]; // prettier-ignore
    put([
      ...shelves,
      {
        ...{ from, label: label.slice(0, 80) },
        ...(from === 'sorted' && { sort: sorts[0]!.name }),
        ...(from === 'found' && { collection: others[0]!.name }),
      },
    ]);
  };
  return (
    <>
      <h2 className="mt-2 text-[15px]">Before a search</h2>
      <Setting part="start" isSet={document.start !== undefined} onReset={() => set('start', undefined)}>
        <label className="grid gap-1 text-[13px]">
          Text before a search
          <textarea
            className="field min-h-16 text-[13px]"
            maxLength={2000}
            value={start.text ?? ''}
            onChange={({ target: { value } }) =>
              setStart({ ...(value !== '' && { text: value }), ...(start.results === false && { results: false }) })
            }
          />
        </label>
        <Check
          label="All records stand there too"
          on={start.results !== false}
          onValue={(on) =>
            setStart({ ...(start.text !== undefined && { text: start.text }), ...(!on && { results: false }) })
          }
        />
      </Setting>
      <Setting part="shelves" isSet={shelves.length > 0} onReset={() => set('shelves', undefined)}>
        <fieldset className="grid grid-cols-[minmax(0,1fr)] gap-2">
          <legend className="mb-1 text-[13px]">Shelves: rows of records</legend>
          <ol className="grid gap-2">
            {shelves.map((shelf, i) => (
              <li
                key={i}
                {...draggable(i, 'shelf', move)}
                className="grid gap-1 rounded-md border border-line bg-paper p-2 text-[13px]"
              >
                <ItemHead
                  kind="shelf"
                  label={shelf.label}
                  at={i}
                  count={shelves.length}
                  onLabel={(label) => change(i, { label }, `shelf${i}`)}
                  onMove={move}
                  onRemove={() => put(shelves.toSpliced(i, 1))}
                />
                <p className="text-xs text-soft">{SOURCES[shelf.from]}</p>
                {shelf.from !== 'sorted' && (
                  <select
                    aria-label={`Collection of shelf ${i + 1}`}
                    className="field py-0.5 text-[13px]"
                    value={shelf.collection ?? facts.collection}
                    onChange={({ target: { value } }) => change(i, { collection: value })}
                  >
                    {facts.collections.map(({ name, title }) => (
                      <option key={name} value={name}>
                        {title}
                      </option>
                    ))}
                  </select>
                )}
                {shelf.from === 'sorted' && (
                  <select
                    aria-label={`Sort of shelf ${i + 1}`}
                    className="field py-0.5 text-[13px]"
                    value={shelf.sort}
                    onChange={({ target: { value } }) => change(i, { sort: value })}
                  >
                    {sorts.map(({ name, label }) => (
                      <option key={name} value={name}>
                        {label}
                      </option>
                    ))}
                  </select>
                )}
                {shelf.from === 'chosen' ? (
                  <ChosenRecords
                    collection={shelf.collection ?? facts.collection}
                    title={facts.parts.card.title}
                    ids={shelf.ids ?? []}
                    onIds={(ids) => change(i, { ids })}
                  />
                ) : (
                  <WholeNumber
                    label="records"
                    value={shelf.size ?? 4}
                    min={1}
                    max={12}
                    onNumber={(size) => change(i, { size }, `size${i}`)}
                  />
                )}
              </li>
            ))}
          </ol>
          {shelves.length < 8 && (
            <AddChoice
              label="Add a shelf"
              options={possible.map((kind) => SOURCES[kind])}
              onAdd={(words) => add(KINDS.find((kind) => SOURCES[kind] === words)!)}
            />
          )}
        </fieldset>
      </Setting>
    </>
  );
}

interface Found {
  id: string;
  title: string;
}

/** Records that are chosen by looking for them. */
function ChosenRecords({
  collection,
  title,
  ids,
  onIds,
}: {
  collection: string;
  title: string | null;
  ids: readonly string[];
  onIds: (ids: string[]) => void;
}) {
  const [text, setText] = useState('');
  const [found, setFound] = useState<readonly Found[]>([]);
  useEffect(() => {
    const gone = new AbortController();
    const params = new URLSearchParams({ q: text, size: '5', record: 'false' });
    if (text.trim() !== '')
      api<SearchAnswer>(`/collections/${encodeURIComponent(collection)}/search?${params}`, {
        signal: gone.signal,
      }).then(
        ({ results }) =>
          setFound(results.map(({ id, record }) => ({ id, title: String((title !== null && record[title]) || id) }))),
        () => {},
      );
    return () => gone.abort();
  }, [collection, text, title]);
  const shown = text.trim() === '' ? [] : found.filter(({ id }) => !ids.includes(id));
  return (
    <div className="grid gap-1">
      <ul className="grid gap-0.5">
        {ids.map((id, i) => (
          <li key={id} className="flex items-center gap-1">
            <span className="figures min-w-0 flex-1 truncate text-xs">{id}</span>
            <MoveButtons what={id} at={i} count={ids.length} onMove={(from, to) => onIds(moved(ids, from, to))} />
            <RemoveButton what={id} onRemove={() => onIds(ids.filter((one) => one !== id))} />
          </li>
        ))}
      </ul>
      {ids.length < 12 && (
        <input
          type="search"
          aria-label="Find a record to add"
          placeholder="Find a record to add"
          className="field py-0.5 text-[13px]"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      {shown.map(({ id, title: name }) => (
        <button
          key={id}
          type="button"
          className="flex min-h-6 gap-2 text-left hover:text-agave"
          onClick={() => {
            onIds([...ids, id]);
            setText('');
          }}
        >
          <span className="min-w-0 flex-1 truncate">{name}</span>
          <span className="figures text-xs text-soft">{id}</span>
        </button>
      ))}
    </div>
  );
}
