import { cellText } from '@/features/load/sample-table';
import type { Metadata } from 'next';
import { ApiScreen } from '@/features/api-page/api-screen';
import { Frame } from '@/features/frame/frame';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';
export const metadata: Metadata = { title: 'API' };

interface Props {
  searchParams: Promise<{ collection?: string }>;
}

export default async function ApiPage({ searchParams }: Props) {
  const { collections, records, tunings, keys } = await studioRuntime('/api');
  const all = collections.list();
  const asked = (await searchParams).collection;
  const current = all.find(({ name }) => name === asked) ?? all.find(({ name }) => name === 'plants') ?? all[0] ?? null;
  const first = current && (await records.list(current.name, 1, 1)).items[0];
  return (
    <Frame collections={all} stage="api">
      <ApiScreen
        names={all.map(({ name }) => name)}
        searchKey={keys.pageKey()}
        known={{
          collection: current?.name ?? '',
          id: first && current ? cellText(first[current.key]) : '',
          field: current ? (tunings.get(current.name, 'live').facets?.[0]?.name ?? '') : '',
        }}
      />
    </Frame>
  );
}
