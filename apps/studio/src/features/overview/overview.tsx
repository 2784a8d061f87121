'use client';

import type { Card, Collection } from '@yucca/contract';
import { useLoading } from '@/features/load/drop-zone';
import { ServerFiles } from '@/features/load/server-files';
import { ProbeInput } from '@/features/probe/probe-input';
import { Button } from '@/ui/button';
import { useParam } from '@/ui/use-param';
import { CollectionStrip } from './collection-strip';
import { SearchPages, type SearchPageEntry } from './search-pages';

export interface OverviewEntry {
  collection: Collection;
  card: Card;
}

/** All collections with their state and what they answer to one query, and the way to the next collection. */
export function Overview({ entries, pages }: { entries: OverviewEntry[]; pages: SearchPageEntry[] }) {
  const { choose } = useLoading();
  const [text, setText] = useParam('probe');
  if (entries.length === 0) return <FirstStep choose={choose} />;
  return (
    <div className="min-w-0 flex-1 overflow-y-auto px-8 py-6">
      <div className="mb-5 flex items-center gap-4">
        <h1 className="text-[28px] leading-9">Collections</h1>
        <label className="ml-4 w-[420px]">
          <span className="sr-only">Probe all collections</span>
          <ProbeInput id="probe" text={text} onText={setText} placeholder="Probe all of them with one query ( / )" />
        </label>
        <span className="ml-auto flex gap-2">
          <ServerFiles />
          <Button kind="primary" onClick={choose}>
            Load a file
          </Button>
        </span>
      </div>
      <ul className="rounded-md border border-line bg-raised">
        {entries.map((entry) => (
          <CollectionStrip key={entry.collection.name} {...entry} text={text} />
        ))}
      </ul>
      <p className="mt-4 text-soft">
        Drop a file of JSON, CSV, Excel, YAML, XML or Parquet anywhere on this window to make another collection, or to
        bring one up to date.
      </p>
      <SearchPages pages={pages} />
    </div>
  );
}

function FirstStep({ choose }: { choose: () => void }) {
  return (
    <div className="grid min-w-0 flex-1 place-items-center p-8">
      <div className="w-[640px] rounded-md border-2 border-dashed border-field-line bg-raised px-12 py-14 text-center">
        <h1 className="mb-3 text-[28px] leading-9">Drop a file here</h1>
        <p className="mb-6 text-soft">
          JSON, CSV, Excel, YAML, XML or Parquet. You see what Yucca makes of it before anything is stored, and a moment
          later it is searchable and has a page of its own.
        </p>
        <Button kind="primary" onClick={choose}>
          Choose a file
        </Button>
        <p className="mt-6 text-soft">
          Copied rows work too: paste them anywhere. No data at hand? <code className="figures">npm run demo</code>{' '}
          brings a plant nursery.
        </p>
      </div>
    </div>
  );
}
