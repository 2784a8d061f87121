import { Frame } from '@/features/frame/frame';
import { Overview } from '@/features/overview/overview';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

export default async function OverviewPage() {
  const { collections: service, interfaces } = await studioRuntime('/');
  const collections = service.list();
  const titleOf = (name: string): string => collections.find((one) => one.name === name)?.title ?? name;
  const pages = interfaces.list().map(({ slug, document: { title, collection, autocomplete = [] } }) => {
    const names = [collection, ...autocomplete.flatMap((section) => section.collection ?? [])];
    return { slug, title: title ?? titleOf(collection), over: [...new Set(names)].map(titleOf) };
  });
  return (
    <Frame collections={collections}>
      <Overview
        entries={collections.map((collection) => ({ collection, card: service.card(collection.name) }))}
        pages={pages}
      />
    </Frame>
  );
}
