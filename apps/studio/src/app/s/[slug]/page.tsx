import { LIMITS } from '@yucca/contract';
import { BY_DISTANCE, pagesUpTo, parseAddress, requestFor, standingRequest, type Query } from '@yucca/kit';
import { redirectOf } from '@yucca/kit/react';
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { PageFrame } from '@/features/search-page/page-frame';
import { SearchPage } from '@/features/search-page/search-page';
import { asJsonLd, listOf } from '@/features/search-page/structured-data';
import { runtime } from '@/server/runtime';
import { baseOf, pageOf } from './page-of';

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

export async function generateMetadata({ params, searchParams }: Props): Promise<Metadata> {
  const { title, at } = pageOf((await params).slug);
  const { q } = await searchParams;
  const asked = typeof q === 'string' && q !== '';
  return {
    title: { absolute: asked ? `${q} · ${title}` : title },
    description: `Search ${title}.`,
    alternates: { canonical: at },
    // What somebody typed is no page of its own.
    ...(asked && { robots: { index: false, follow: true } }),
  };
}

export default async function HostedPage({ params, searchParams }: Props) {
  const sent = await searchParams;
  const { search, keys } = runtime();
  const page = pageOf((await params).slug);
  const { query: asked } = parseAddress(queryString(sent), page.facets);
  const sorts = [...page.sorts.map(({ name }) => name), BY_DISTANCE];
  const query: Query = {
    ...asked,
    q: asked.q.slice(0, LIMITS.queryLength),
    sort: asked.sort !== null && sorts.includes(asked.sort) ? asked.sort : null,
    near: page.geo === null ? null : asked.near,
    page: Math.min(asked.page, Math.floor(LIMITS.resultWindow / page.pageSize)),
  };
  const ask = (one: Query) => search.search(page.collection, requestFor(one, standingRequest(page)));
  const answer = page.paging === 'pages' ? await ask(query) : await pagesUpTo(query, ask);
  // Whoever asks for what a placement sends elsewhere is sent there; the developer's panel stays.
  const elsewhere = sent.lens === '1' ? null : redirectOf(answer);
  if (elsewhere !== null) redirect(elsewhere);
  const base = await baseOf();
  return (
    <PageFrame title={page.title} at={page.at}>
      <h1 className="sr-only">Search {page.title}</h1>
      <SearchPage
        page={page}
        pageKey={keys.pageKey()}
        query={{ ...query, page: answer.page }}
        answer={answer}
        lens={sent.lens === '1'}
      />
      <script
        type="application/ld+json"
        dangerouslySetInnerHTML={{ __html: asJsonLd(listOf(answer.results.slice(0, page.pageSize), page, base)) }}
      />
    </PageFrame>
  );
}
