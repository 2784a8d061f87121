import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { InsightsScreen } from '@/features/insights/insights-screen';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Insights of ${(await params).collection}` };
}

export default async function InsightsPage({ params }: Props) {
  const name = (await params).collection;
  const { collections } = await studioRuntime(`/c/${name}/insights`);
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  return (
    <Frame collections={all} current={current} stage="insights">
      <InsightsScreen
        key={name}
        collection={current}
        card={collections.card(name)}
        today={new Date().toISOString().slice(0, 10)}
      />
    </Frame>
  );
}
