import { LIMITS } from '@yucca/contract';
import {
  BY_DISTANCE,
  pagesUpTo,
  parseAddress,
  redirectOf,
  requestFor,
  shelvesBeside,
  standingRequest,
  type Query,
} from '@yucca/kit';
import { textsOf } from '@yucca/kit/texts';
import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { inLanguage, inLanguages } from '@/features/search-page/in-language';
import { SearchPage } from '@/features/search-page/search-page';
import { asJsonLd, listOf } from '@/features/search-page/structured-data';
import { runtime } from '@/server/runtime';
import { baseOf, languageOf, pageOf } from './page-of';
import { PageStyles } from './page-styles';

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

/** The token of a preview; undefined on the page that visitors see. */
const previewOf = (sent: Awaited<Props['searchParams']>): string | undefined =>
  typeof sent.preview === 'string' ? sent.preview : undefined;

export async function generateMetadata({ params, searchParams }: Props): Promise<Metadata> {
  const sent = await searchParams;
  const page = pageOf((await params).slug, 'live', languageOf(sent));
  const { title, at } = page;
  if (previewOf(sent) !== undefined) return { title: { absolute: `Preview of ${title}` }, robots: { index: false } };
  const { q } = sent;
  const asked = typeof q === 'string' && q !== '';
  return {
    title: { absolute: asked ? `${q} · ${title}` : title },
    description: textsOf(page.locale, page.texts).say('searchIn', { title }),
    alternates: {
      canonical: (await baseOf()) + inLanguage(at, page),
      languages: inLanguages((await baseOf()) + at, page),
    },
    // What somebody typed is no page of its own.
    ...(asked && { robots: { index: false, follow: true } }),
  };
}

export default async function HostedPage({ params, searchParams }: Props) {
  const sent = await searchParams;
  const { search, keys, interfaces } = runtime();
  const { slug } = await params;
  const preview = previewOf(sent);
  if (preview !== undefined && !interfaces.opensDraft(slug, preview)) return <Expired at={pageOf(slug).at} />;
  // Beside the draft, a preview shows what is live, without being told of as a visit.
  const page = pageOf(slug, preview === undefined || sent.version === 'live' ? 'live' : 'draft', languageOf(sent));
  const { query: asked } = parseAddress(queryString(sent), page.facets);
  const sorts = [...page.sorts.map(({ name }) => name), BY_DISTANCE];
  const query: Query = {
    ...asked,
    q: asked.q.slice(0, LIMITS.queryLength),
    sort: asked.sort !== null && sorts.includes(asked.sort) ? asked.sort : null,
    near: page.geo === null ? null : asked.near,
    page: Math.min(asked.page, Math.floor(LIMITS.resultWindow / page.pageSize)),
  };
  const ask = (one: Query) =>
    search.search(page.collection, {
      ...requestFor(one, standingRequest(page)),
      ...(preview !== undefined && { record: false }),
    });
  const [answer, ...beside] = await Promise.all([
    page.paging === 'pages' ? ask(query) : pagesUpTo(query, ask),
    ...shelvesBeside(page).map(async ({ collection, request, ask: askFor }) => {
      const own = askFor!(query);
      // A shelf that fails is left out, as it is in the browser.
      return own && (await search.search(collection, { ...request, ...own }).catch(() => null));
    }),
  ]);
  // Whoever asks for what a placement sends elsewhere is sent there; the developer's panel stays.
  const elsewhere = sent.lens === '1' || preview !== undefined ? null : redirectOf(answer);
  if (elsewhere !== null) redirect(elsewhere);
  const base = await baseOf();
  return (
    <SearchPage
      page={page}
      pageKey={keys.pageKey()}
      query={{ ...query, page: answer.page }}
      answer={answer}
      beside={beside}
      lens={sent.lens === '1'}
      preview={preview !== undefined}
    >
      {preview === undefined && <PageStyles page={page} />}
      <script
        type="application/ld+json"
        dangerouslySetInnerHTML={{ __html: asJsonLd(listOf(answer.results.slice(0, page.pageSize), page, base)) }}
      />
    </SearchPage>
  );
}

/** In place of a preview whose time is over, or that was never one. */
function Expired({ at }: { at: string }) {
  return (
    <main className="mx-auto max-w-[640px] px-6 py-24">
      <h1 className="text-[20px] leading-7">This preview is over</h1>
      <p className="mt-2 text-soft">
        Previews of a draft are shown for a time. Whoever designs the page can make a new address.
      </p>
      <p className="mt-4">
        <a href={at} className="link">
          To the page as visitors see it
        </a>
      </p>
    </main>
  );
}
