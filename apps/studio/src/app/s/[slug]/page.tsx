import { completeTuning } from '@yucca/contract';
import { parseAddress, requestFor } from '@yucca/kit';
import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { PAGE_SIZE } from '@/features/search-page/page-size';
import { SearchPage } from '@/features/search-page/search-page';
import { isFailure } from '@/server/failure';
import { runtime } from '@/server/runtime';

export const dynamic = 'force-dynamic';

interface Props {
  params: Promise<{ slug: string }>;
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/** The query string as it was sent, put together again from the framework's parsed form. */
function queryString(parsed: Record<string, string | string[] | undefined>): string {
  return Object.entries(parsed)
    .flatMap(([name, value]) => (Array.isArray(value) ? value : [value ?? '']).map((text) => [name, text]))
    .map(([name, text]) => `${encodeURIComponent(name!)}=${encodeURIComponent(text!)}`)
    .join('&');
}

function collectionOf(name: string) {
  try {
    return runtime().collections.get(name);
  } catch (error) {
    if (isFailure(error)) notFound();
    throw error;
  }
}

export async function generateMetadata({ params, searchParams }: Props): Promise<Metadata> {
  const { title, name } = collectionOf((await params).slug);
  const { q } = await searchParams;
  const text = typeof q === 'string' && q !== '' ? `${q} · ${title}` : title;
  return {
    title: { absolute: text },
    description: `Search ${title.toLowerCase()}.`,
    alternates: { canonical: `/s/${name}` },
  };
}

export default async function HostedPage({ params, searchParams }: Props) {
  const { collections, tunings, search, keys } = runtime();
  const { name, title, records } = collectionOf((await params).slug);
  const tuning = completeTuning(tunings.get(name, 'live'));
  const facets = tuning.facets.map((facet) => ({ name: facet.name, kind: facet.kind }));
  const { query } = parseAddress(queryString(await searchParams), facets);
  const sorts = tuning.sorts.map((sort) => ({ name: sort.name, label: sort.label }));
  const sort = sorts.some((one) => one.name === query.sort) ? query.sort : null;
  const within = {
    ...query,
    sort,
    page: Math.min(query.page, Math.floor(10_000 / PAGE_SIZE)),
    q: query.q.slice(0, 512),
  };
  const answer = await search.search(
    name,
    requestFor(within, { facets: facets.length > 0 ? ['*'] : [], size: PAGE_SIZE }),
  );
  return (
    <SearchPage
      collection={name}
      title={title}
      card={collections.card(name)}
      facets={facets}
      sorts={sorts}
      pageKey={keys.pageKey()}
      all={records}
      query={within}
      answer={answer}
    />
  );
}
