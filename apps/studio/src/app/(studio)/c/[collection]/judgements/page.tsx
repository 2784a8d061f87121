import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { JudgementsScreen } from '@/features/judgements/judgements-screen';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Judgements of ${(await params).collection}` };
}

export default async function JudgementsPage({ params }: Props) {
  const name = (await params).collection;
  const { collections, judgements } = await studioRuntime(`/c/${name}/judgements`);
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  return (
    <Frame collections={all} current={current} stage="judgements">
      <JudgementsScreen key={name} collection={current} card={collections.card(name)} start={judgements.list(name)} />
    </Frame>
  );
}
