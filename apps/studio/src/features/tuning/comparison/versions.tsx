'use client';

import type { Page } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';

/** Which tuning answers in a column: live, the draft, or a published version by its number. */
export type Version = 'live' | 'draft' | number;

/** A version as it stands in the address. */
export function versionFrom(text: string, usual: Version): Version {
  if (text === 'live' || text === 'draft') return text;
  return /^[1-9]\d{0,8}$/.test(text) ? Number(text) : usual;
}

export const versionName = (version: Version): string => (typeof version === 'number' ? `version ${version}` : version);

/** The sign that stands before a version, everywhere. */
export const versionSign = (version: Version): string => ({ live: '◆', draft: '◇' })[String(version)] ?? '○';

export const versionTone = (version: Version): string =>
  ({ live: 'text-agave', draft: 'text-clay' })[String(version)] ?? 'text-ink';

interface Published {
  version: number;
  live: boolean;
  note: string | null;
}

/** The published versions but the live one, newest first; read anew when `state` changes. */
export function useOlder(collection: string, state: unknown): Published[] {
  const [older, setOlder] = useState<Published[]>([]);
  useEffect(() => {
    const gone = new AbortController();
    api<Page<Published>>(`/collections/${collection}/tuning/versions`, { signal: gone.signal }).then(
      ({ items }) => setOlder(items.filter(({ live }) => !live)),
      // Without the history there is nothing else to choose.
      () => {},
    );
    return () => gone.abort();
  }, [collection, state]);
  return older;
}

/** Chooses what answers in a column. */
export function VersionChoice({
  label,
  value,
  older,
  onChange,
}: {
  label: string;
  value: Version;
  older: readonly Published[];
  onChange: (version: Version) => void;
}) {
  const known = typeof value === 'string' || older.some(({ version }) => version === value);
  return (
    <select
      aria-label={label}
      className={`-ml-1 min-h-6 max-w-full rounded [field-sizing:content] border border-transparent bg-transparent pr-1 font-head text-[15px] font-semibold hover:border-line ${versionTone(value)}`}
      value={String(value)}
      onChange={(event) => onChange(versionFrom(event.target.value, 'live'))}
    >
      <option value="live">◆ live</option>
      <option value="draft">◇ draft</option>
      {!known && <option value={String(value)}>○ version {value}</option>}
      {older.map(({ version, note }) => (
        <option key={version} value={String(version)}>
          ○ version {version}
          {note ? `: ${note.slice(0, 40)}` : ''}
        </option>
      ))}
    </select>
  );
}
