import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { DraftProvider } from '@/features/tuning/draft';
import { TuningScreen } from '@/features/tuning/tuning-screen';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Tuning of ${(await params).collection}` };
}

export default async function TuningPage({ params }: Props) {
  const name = (await params).collection;
  const { collections, tunings } = await studioRuntime(`/c/${name}/tuning`);
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  return (
    <Frame collections={all} current={current} stage="tuning">
      <DraftProvider
        key={name}
        collection={name}
        start={{ live: tunings.get(name, 'live'), draft: tunings.get(name, 'draft'), exists: current.draftChanged }}
      >
        <TuningScreen collection={current} card={collections.card(name)} />
      </DraftProvider>
    </Frame>
  );
}
