import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { DraftProvider } from '@/features/tuning/draft';
import { TuningScreen } from '@/features/tuning/tuning-screen';
import { studioRuntime } from '@/http/studio-gate';
import { draftStart } from '../draft-start';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Tuning of ${(await params).collection}` };
}

export default async function TuningPage({ params }: Props) {
  const name = (await params).collection;
  const yucca = await studioRuntime(`/c/${name}/tuning`);
  const { collections } = yucca;
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  return (
    <Frame collections={all} current={current} stage="tuning">
      <DraftProvider key={name} collection={name} start={draftStart(yucca, current)}>
        <TuningScreen collection={current} card={collections.card(name)} />
      </DraftProvider>
    </Frame>
  );
}
