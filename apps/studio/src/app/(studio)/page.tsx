import { Frame } from '@/features/frame/frame';
import { Overview } from '@/features/overview/overview';
import { runtime } from '@/server/runtime';

export const dynamic = 'force-dynamic';

export default function OverviewPage() {
  const { collections: service } = runtime();
  const collections = service.list();
  return (
    <Frame collections={collections}>
      <Overview entries={collections.map((collection) => ({ collection, card: service.card(collection.name) }))} />
    </Frame>
  );
}
