import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { RecordsScreen } from '@/features/records/records-screen';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

/** As many as the table fetches at a time. */
const SIZE = 100;

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Records of ${(await params).collection}` };
}

export default async function RecordsPage({ params }: Props) {
  const name = (await params).collection;
  const { collections, records, tunings, tasks } = await studioRuntime(`/c/${name}/records`);
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  const { facets = [] } = tunings.get(name, 'live');
  return (
    <Frame collections={all} current={current} stage="records">
      <RecordsScreen
        collection={current}
        listing={await records.list(name, 1, SIZE)}
        card={collections.card(name)}
        facets={facets.map((facet) => facet.name)}
        loads={tasks.list(name, 8)}
      />
    </Frame>
  );
}
