import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { RecordsScreen } from '@/features/records/records-screen';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

const SIZE = 50;

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Records of ${(await params).collection}` };
}

export default async function RecordsPage({ params, searchParams }: Props) {
  const name = (await params).collection;
  const { collections, records, tunings, tasks } = await studioRuntime(`/c/${name}/records`);
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  const asked = Number((await searchParams).page ?? 1);
  const pages = Math.max(1, Math.ceil(current.records / SIZE));
  const page = Number.isInteger(asked) ? Math.min(Math.max(1, asked), pages) : 1;
  const { facets = [] } = tunings.get(name, 'live');
  return (
    <Frame collections={all} current={current} stage="records">
      <RecordsScreen
        collection={current}
        listing={await records.list(name, page, SIZE)}
        card={collections.card(name)}
        facets={facets.map((facet) => facet.name)}
        loads={tasks.list(name, 8)}
      />
    </Frame>
  );
}
