import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { Frame } from '@/features/frame/frame';
import { DesignProvider } from '@/features/page/draft';
import type { DesignStart, PageFacts } from '@/features/page/facts';
import { PageScreen } from '@/features/page/page-screen';
import { studioRuntime } from '@/http/studio-gate';
import { isFailure } from '@/server/failure';
import type { Runtime } from '@/server/runtime';
import { tagOf } from '@/server/versions/versions';

export const dynamic = 'force-dynamic';

/** The address of the preview in the frame holds as long as a day's work. */
const PREVIEW_S = 86_400;

interface Props {
  params: Promise<{ slug: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: `Page ${(await params).slug}` };
}

/** The design of a page, and what it can be made of; null where there is neither an interface nor a collection. */
function designOf({ interfaces, collections }: Runtime, slug: string) {
  try {
    const { live, draft, exists } = interfaces.design(slug);
    const collection = collections.get(live.collection);
    const start: DesignStart = { live, draft, exists, tag: tagOf(draft) };
    const others = interfaces.list().filter(({ document }) => document.collection === collection.name);
    const pages = others.map((one) => ({ slug: one.slug, title: one.document.title ?? collection.title }));
    const facts: PageFacts = {
      parts: interfaces.parts(slug, live, true),
      ...{ collection: collection.name, generation: collection.generation },
      collections: collections.list().map(({ name, title }) => ({ name, title })),
      pages: pages.some((page) => page.slug === slug) ? pages : [{ slug, title: collection.title }, ...pages],
    };
    return { collection, start, facts };
  } catch (error) {
    if (isFailure(error)) return null;
    throw error;
  }
}

export default async function DesignerPage({ params }: Props) {
  const { slug } = await params;
  const yucca = await studioRuntime(`/pages/${slug}`);
  const design = designOf(yucca, slug);
  if (design === null) notFound();
  const { collection, start, facts } = design;
  return (
    <Frame collections={yucca.collections.list()} current={collection} stage="page">
      <DesignProvider key={slug} slug={slug} start={start}>
        <PageScreen facts={facts} preview={yucca.interfaces.preview(slug, PREVIEW_S).address} />
      </DesignProvider>
    </Frame>
  );
}
