import { redirect } from 'next/navigation';
import { studioRuntime } from '@/http/studio-gate';

export const dynamic = 'force-dynamic';

/** Leads to the page of a collection: the first that was designed, or the one every collection has. */
export default async function PageOfCollection({ params }: { params: Promise<{ collection: string }> }) {
  const { collection } = await params;
  const { interfaces } = await studioRuntime(`/c/${collection}/page`);
  const designed = interfaces.list().find(({ document }) => document.collection === collection);
  redirect(`/pages/${designed?.slug ?? collection}`);
}
