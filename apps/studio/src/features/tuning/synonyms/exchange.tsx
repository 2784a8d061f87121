'use client';

import type { SynonymGroup } from '@yucca/contract';
import { useRef, useState, type ChangeEvent } from 'react';
import { api } from '@/ui/api';
import { count, counted } from '@/ui/format';
import { printSynonym } from '../levers';

/** The media type of a file, by how its name ends. */
const TYPES: Readonly<Record<string, string>> = {
  csv: 'text/csv',
  txt: 'text/csv',
  ttl: 'text/turtle',
  rdf: 'application/rdf+xml',
  xml: 'application/rdf+xml',
  jsonld: 'application/ld+json',
  json: 'application/ld+json',
};

/** Taking synonyms out and bringing them in: CSV, or a SKOS vocabulary. What comes in is added, and can be undone. */
export function SynonymExchange({
  collection,
  known,
  onTake,
}: {
  collection: string;
  /** The groups there are, as they are written. */
  known: readonly string[];
  onTake: (groups: SynonymGroup[]) => void;
}) {
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<{ good: boolean; text: string; ignored: string[] } | null>(null);
  const take = async ({ target }: ChangeEvent<HTMLInputElement>): Promise<void> => {
    const chosen = target.files?.[0];
    target.value = '';
    if (!chosen) return;
    const ending = chosen.name.toLowerCase().split('.').at(-1) ?? '';
    try {
      const { groups, ignored } = await api<{ groups: SynonymGroup[]; ignored: string[] }>(
        `/collections/${collection}/synonyms/read`,
        { method: 'POST', body: await chosen.text(), headers: { 'Content-Type': TYPES[ending] ?? 'text/csv' } },
      );
      const before = new Set(known);
      const fresh = groups.filter((group) => !before.has(printSynonym(group)));
      if (fresh.length > 0) onTake(fresh);
      const rest = groups.length - fresh.length;
      const also = rest > 0 ? `, ${count(rest)} were here already` : '';
      setSaid({ good: true, text: `${counted(fresh.length, 'group')} added from ${chosen.name}${also}.`, ignored });
    } catch (error) {
      setSaid({ good: false, text: `${chosen.name} was not taken. ${(error as Error).message}`, ignored: [] });
    }
  };
  const href = (format: string): string => `/api/v1/collections/${collection}/synonyms?version=draft&format=${format}`;
  return (
    <div className="text-[13px]">
      <input
        ref={file}
        type="file"
        hidden
        accept=".csv,.txt,.ttl,.rdf,.xml,.jsonld,.json"
        aria-label="File of synonyms"
        onChange={(event) => void take(event)}
      />
      <p className="flex flex-wrap items-center gap-x-3">
        <button
          type="button"
          className="link min-h-6"
          title="CSV, or a SKOS vocabulary as Turtle, RDF/XML or JSON-LD"
          onClick={() => file.current?.click()}
        >
          Import …
        </button>
        {known.length > 0 && (
          <>
            <a className="link min-h-6" href={href('csv')} download={`${collection}-synonyms.csv`}>
              Export CSV
            </a>
            <a className="link min-h-6" href={href('turtle')} download={`${collection}-synonyms.ttl`}>
              Export SKOS
            </a>
          </>
        )}
      </p>
      {said && (
        <div role={said.good ? 'status' : 'alert'} className={said.good ? '' : 'text-madder'}>
          <p>{said.text}</p>
          {said.ignored.length > 0 && (
            <details>
              <summary>{counted(said.ignored.length, 'entry', 'entries')} left out</summary>
              <ul className="list-disc pl-5 text-xs">
                {said.ignored.slice(0, 20).map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ul>
            </details>
          )}
        </div>
      )}
    </div>
  );
}
