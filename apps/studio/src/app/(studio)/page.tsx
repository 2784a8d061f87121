import { Frame } from '@/features/frame/frame';
import { Overview } from '@/features/overview/overview';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

export default async function OverviewPage() {
  const { collections: service } = await studioRuntime('/');
  const collections = service.list();
  return (
    <Frame collections={collections}>
      <Overview entries={collections.map((collection) => ({ collection, card: service.card(collection.name) }))} />
    </Frame>
  );
}
