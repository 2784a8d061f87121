'use client';

import { createClient, EMPTY_QUERY, withText } from '@yucca/kit';
import { Marked, useSearch } from '@yucca/kit/react';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { shownHit, type ShownHit } from '@yucca/kit';
import { api } from '@/ui/api';
import { ConfirmByName } from '@/ui/confirm-by-name';
import { bytes, count, counted, moment } from '@/ui/format';
import { FeedsHealth } from './feeds-health';
import { Health } from './health';
import type { OverviewEntry } from './overview';

const client = createClient({ cache: { most: 0 } });
const SHOWN = 5;

/** One collection: its figures, and the first of what it answers. */
export function CollectionStrip({ collection, card, text }: OverviewEntry & { text: string }) {
  const { name, title, records, bytes: size, liveVersion, draftChanged, changedAt, generation } = collection;
  const [{ answer, error, status }, search] = useSearch(() => ({
    client,
    collection: name,
    request: { size: SHOWN },
    query: withText(EMPTY_QUERY, text),
  }));
  useEffect(() => void search.refresh(), [search, generation]);
  useEffect(() => search.ask(withText(EMPTY_QUERY, text)), [search, text]);
  const records_ = `/c/${name}/records${text === '' ? '' : `?probe=${encodeURIComponent(text)}`}`;
  const page = `/s/${name}${text === '' ? '' : `?q=${encodeURIComponent(text)}`}`;
  return (
    <li className="border-b border-line px-5 py-4 last:border-b-0">
      <div className="mb-3 flex items-baseline gap-4">
        <h2 className="text-[20px] leading-7">
          <Link href={records_} className="hover:text-agave">
            {title}
          </Link>
        </h2>
        <p className="figures flex gap-4 text-xs text-soft">
          <span>{counted(records, 'record')}</span>
          <span>index {bytes(size)}</span>
          <span className="text-agave">◆ live {liveVersion}</span>
          {draftChanged && <span className="text-clay">◇ draft waiting</span>}
          <span>{changedAt ? `changed ${moment(changedAt)}` : 'nothing loaded yet'}</span>
        </p>
        <span className="ml-auto flex gap-4">
          <Link href={records_} className="link">
            Records
          </Link>
          {collection.searched && (
            <Link href={`/c/${name}/insights`} className="link">
              Insights
            </Link>
          )}
          <Link href={page} className="link">
            Search page
          </Link>
          <DeleteCollection name={name} title={title} records={records} />
        </span>
      </div>
      {status === 'failed' && <p className="min-h-14 text-madder">{error?.message || 'The search did not answer.'}</p>}
      {answer && status !== 'failed' && (
        <div className="flex min-h-14 items-center gap-3">
          {text !== '' && (
            <p aria-live="polite" className="figures w-24 shrink-0 text-[13px]">
              <strong className="block text-[20px] leading-6 font-medium">{count(answer.total)}</strong>
              {answer.total === 1 ? 'result' : 'results'}
            </p>
          )}
          <ol className="grid min-w-0 flex-1 grid-cols-5 gap-3">
            {answer.results.map((result) => (
              <StripHit
                key={result.id}
                hit={shownHit(result, card)}
                href={`${records_}${text === '' ? '?' : '&'}record=${encodeURIComponent(result.id)}`}
              /> // the record opens beside its collection
            ))}
          </ol>
        </div>
      )}
      {collection.searched && <Health collection={name} />}
      {collection.feeds > 0 && <FeedsHealth collection={name} />}
    </li>
  );
}

function StripHit({ hit, href }: { hit: ShownHit; href: string }) {
  const { title, detail, thumbnail: picture, elsewhere } = hit;
  const second = elsewhere ?? detail;
  return (
    <li className="min-w-0">
      <Link href={href} className="flex items-center gap-2.5 rounded-md p-1 hover:bg-sunk">
        {picture && (
          // eslint-disable-next-line @next/next/no-img-element -- pictures come from the records, of any host and size
          <img
            src={picture}
            alt=""
            width={48}
            height={48}
            loading="lazy"
            className="size-12 shrink-0 rounded object-cover"
          />
        )}
        <span className="min-w-0">
          <span className="line-clamp-2 text-[13px] leading-[17px] font-medium">
            <Marked text={title.text} ranges={title.ranges} />
          </span>
          {second && (
            <span className="block truncate text-xs text-soft">
              <Marked text={second.text} ranges={second.ranges} />
            </span>
          )}
        </span>
      </Link>
    </li>
  );
}

function DeleteCollection({ name, title, records }: { name: string; title: string; records: number }) {
  const router = useRouter();
  const [asking, setAsking] = useState(false);
  const remove = async (): Promise<void> => {
    await api(`/collections/${name}`, { method: 'DELETE' });
    router.refresh();
  };
  return (
    <>
      <button
        type="button"
        className="text-madder hover:underline"
        aria-label={`Delete ${title}`}
        onClick={() => setAsking(true)}
      >
        Delete
      </button>
      {asking && (
        <ConfirmByName
          name={name}
          title={`Delete “${title}”?`}
          verb="Delete collection"
          onConfirm={remove}
          onClose={() => setAsking(false)}
        >
          Its {counted(records, 'record')}, its tuning and its search page go with it. This cannot be undone.
        </ConfirmByName>
      )}
    </>
  );
}
