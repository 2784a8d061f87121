import type { InterfacePage, SearchResult } from '@yucca/contract';
import { shownHit } from '@yucca/kit';
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { cache } from 'react';
import { inLanguage, inLanguages } from '@/features/search-page/in-language';
import { PageFrame } from '@/features/search-page/page-frame';
import { RecordPage } from '@/features/search-page/record-page';
import { asJsonLd, thingOf } from '@/features/search-page/structured-data';
import { isFailure } from '@/server/failure';
import { runtime } from '@/server/runtime';
import { baseOf, languageOf, pageOf } from '../../page-of';
import { PageStyles } from '../../page-styles';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ slug: string; id: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** The record with the fields that visitors may see, read once a request. */
const shownRecord = cache((collection: string, key: string) => runtime().records.shown(collection, key));

/** The page and the one record of it. */
async function recordOf({
  params,
  searchParams,
}: Props): Promise<{ page: InterfacePage; result: SearchResult; path: string }> {
  const { slug, id } = await params;
  const page = pageOf(slug, 'live', languageOf(await searchParams));
  try {
    const key = decodeURIComponent(id);
    const record = await shownRecord(page.collection, key);
    const path = `${page.at}/r/${encodeURIComponent(key)}`;
    return { page, path, result: { id: key, record, marks: {}, snippets: {} } };
  } catch (error) {
    if (isFailure(error) || error instanceof URIError) notFound();
    throw error;
  }
}

export async function generateMetadata(props: Props): Promise<Metadata> {
  const { page, result, path } = await recordOf(props);
  const { title, text } = shownHit(result, page.card);
  return {
    title: { absolute: `${title.text} · ${page.title}` },
    description: text?.text ?? title.text,
    alternates: {
      canonical: (await baseOf()) + inLanguage(path, page),
      languages: inLanguages((await baseOf()) + path, page),
    },
  };
}

export default async function HostedRecordPage(props: Props) {
  const { page, result, path } = await recordOf(props);
  return (
    <PageFrame page={page} address={path}>
      <PageStyles page={page} />
      <RecordPage page={page} result={result} />
      <script
        type="application/ld+json"
        dangerouslySetInnerHTML={{ __html: asJsonLd(thingOf(result, page, (await baseOf()) + path)) }}
      />
    </PageFrame>
  );
}
