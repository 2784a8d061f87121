'use client';

import type { AuditEntry, Page } from '@yucca/contract';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { counted, moment } from '@/ui/format';
import { wordsOf } from './changes';
import { KeysHead } from './keys-head';

const exportOf = (format: string): string => `/api/v1/audit?format=${format}`;

/** Who changed what, the newest change first. */
export function AuditScreen({
  entries,
  collection,
  names,
}: {
  entries: Page<AuditEntry>;
  collection: string | null;
  names: string[];
}) {
  const router = useRouter();
  const hrefOf = (page: number): string =>
    `/keys/audit?${new URLSearchParams({ ...(collection && { collection }), page: String(page) }).toString()}`;
  return (
    <section className="min-w-0 flex-1 overflow-y-auto">
      <KeysHead current="Audit trail">
        Every change that was made in the studio or with a key. The newest 100,000 are kept.
      </KeysHead>
      <div className="flex items-center gap-4 border-t border-line px-6 py-2">
        <label className="flex items-center gap-2">
          Collection
          <select
            className="field w-56"
            value={collection ?? ''}
            onChange={({ target }) => router.push(`/keys/audit?collection=${encodeURIComponent(target.value)}`)}
          >
            <option value="">All of them</option>
            {names.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
        <span className="text-soft">{counted(entries.total, 'change')}</span>
        <span className="ml-auto flex gap-4">
          <a className="min-h-6 text-agave hover:underline" href={exportOf('csv&spreadsheet=true')} download>
            Export as CSV
          </a>
          <a className="min-h-6 text-agave hover:underline" href={exportOf('ndjson')} download>
            Export as JSON Lines
          </a>
        </span>
      </div>
      {entries.items.length === 0 ? (
        <p className="border-t border-line px-6 py-8 text-soft">
          Nothing was changed{collection === null ? ' yet' : ` in ${collection} yet`}. A loaded file, a published draft
          or a new key would stand here.
        </p>
      ) : (
        <Entries items={entries.items} />
      )}
      <nav aria-label="Pages" className="flex gap-4 px-6 py-4">
        {entries.page > 1 && <Link href={hrefOf(entries.page - 1)}>← Newer</Link>}
        {entries.page < entries.pages && <Link href={hrefOf(entries.page + 1)}>Older →</Link>}
      </nav>
    </section>
  );
}

function Entries({ items }: { items: AuditEntry[] }) {
  return (
    <table className="w-full border-t border-line text-[13px]">
      <thead className="bg-sunk text-left">
        <tr>
          {['When', 'Who', 'What', 'Collection', 'From'].map((name, i) => (
            <th key={name} scope="col" className={i === 0 ? 'w-56 py-2 pl-6 font-medium' : 'px-3 py-2 font-medium'}>
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {items.map((entry) => (
          <tr key={entry.id} className="border-b border-line align-top">
            <td className="py-2 pl-6 whitespace-nowrap text-soft">{moment(entry.at)}</td>
            <td className="px-3 py-2">
              {entry.actor}
              {entry.keyId && entry.keyId !== entry.actor && (
                <span className="figures block text-xs text-soft">{entry.keyId}</span>
              )}
            </td>
            <td className="px-3 py-2">
              <span className="break-words">{wordsOf(entry)}</span>
              <span className="figures block text-xs break-all text-soft">
                {entry.method} {entry.path}
              </span>
            </td>
            <td className="px-3 py-2">{entry.collection ?? '–'}</td>
            <td className="figures px-3 py-2 text-soft">{entry.remote ?? '–'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
