import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { FeedsScreen } from '@/features/feeds/feeds-screen';
import { Frame } from '@/features/frame/frame';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Feeds of ${(await params).collection}` };
}

export default async function FeedsPage({ params }: Props) {
  const name = (await params).collection;
  const { collections } = await studioRuntime(`/c/${name}/feeds`);
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  return (
    <Frame collections={all} current={current} stage="feeds">
      <FeedsScreen key={name} collection={current} />
    </Frame>
  );
}
