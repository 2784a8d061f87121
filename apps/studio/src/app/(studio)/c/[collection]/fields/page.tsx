import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { FieldsScreen } from '@/features/fields/fields-screen';
import { Frame } from '@/features/frame/frame';
import { DraftProvider } from '@/features/tuning/draft';
import { studioRuntime } from '@/http/studio-gate';
import { draftStart } from '../draft-start';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ collection: string }>;
}

/** A profile that is ready this soon comes with the page; otherwise the page does not wait for it. */
const PATIENCE_MS = 150;

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Fields of ${(await params).collection}` };
}

export default async function FieldsPage({ params }: Props) {
  const name = (await params).collection;
  const yucca = await studioRuntime(`/c/${name}/fields`);
  const { collections, profiles } = yucca;
  const all = collections.list();
  const current = all.find((collection) => collection.name === name);
  if (!current) notFound();
  const profile = await Promise.race([
    // One that cannot be made is told by the screen, which asks for it again.
    profiles.get(name).catch((error: Error) => {
      yucca.log.warn({ collection: name, error: error.message }, 'no profile for the first sight of a screen');
      return null;
    }),
    new Promise<null>((resolve) => setTimeout(() => resolve(null), PATIENCE_MS)),
  ]);
  return (
    <Frame collections={all} current={current} stage="fields">
      <DraftProvider key={name} collection={name} start={draftStart(yucca, current)}>
        <FieldsScreen collection={current} card={collections.card(name)} profile={profile} />
      </DraftProvider>
    </Frame>
  );
}
