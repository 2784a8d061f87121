import { pathSegment } from '../written/path-segment';
import { cardFormatOf } from '@yucca/kit';
import { textsOf } from '@yucca/kit/texts';
import { hasOwnTexts, linkFrom, titleOf } from '../written/facts';
import { importsOf } from '../written/imports';
import { literal } from '../written/literal';
import { policyOf } from '../written/policy';
import {
  partsNamed,
  envFile,
  KIT_FILE,
  packageFile,
  projectFiles,
  readme,
  smokeFile,
  tsconfig,
} from '../written/project';
import { searchPageFile } from '../written/search-page';
import { projectStyles } from '../written/styles';
import { versionsOf } from '../written/versions';
import { yuccaFile } from '../written/yucca';
import { sharedSources } from './react';
import type { TakenAway, Target } from './target';

/** A project of Next.js (App Router): first results, record pages and a sitemap come from its server. */
export const next: Target = (what) => {
  const { page, server } = what;
  const styles = projectStyles(page);
  return {
    ...projectFiles(what),
    ...sharedSources(what, 'search/'),
    'search/search-page.tsx': `'use client';\n\n${searchPageFile(page, 'on the server')}`,
    'search/yucca.ts': yuccaFile(
      what,
      (name) => `process.env.NEXT_PUBLIC_${name} ?? ''`,
      `/${pathSegment(page.collection)}`,
    ),
    'app/layout.tsx': layoutFile(what),
    'app/page.tsx': pageFile(what),
    [`app/${pathSegment(page.collection)}/[id]/page.tsx`]: recordFile(what),
    'app/not-found.tsx': notFoundFile(what),
    'app/sitemap.ts': sitemapFile(what),
    '.env': `${envFile(what, 'NEXT_PUBLIC')}# Where this site is reached, for its sitemap.\nSITE=http://localhost:3000\n`,
    'package.json': packageFile(
      page.slug,
      {
        dev: 'next dev',
        build: 'next build',
        start: 'next start',
        check: 'next typegen && tsc',
        smoke: 'next build && node smoke.mjs',
      },
      { '@yucca/kit': `file:${KIT_FILE}`, ...versionsOf('next', 'react', 'react-dom') },
      versionsOf('@types/node', '@types/react', '@types/react-dom', 'selenium-webdriver', 'typescript'),
    ),
    'tsconfig.json': tsconfig(
      {
        jsx: 'react-jsx',
        allowJs: true,
        incremental: true,
        esModuleInterop: true,
        resolveJsonModule: true,
        plugins: [{ name: 'next' }],
      },
      ['next-env.d.ts', '**/*.ts', '**/*.tsx', '.next/types/**/*.ts', '.next/dev/types/**/*.ts'],
    ),
    'next.config.ts': `import type { NextConfig } from 'next';

/** What pages of this site may load: their own files, answers and pictures of Yucca. */
const POLICY = ${literal(startedInside(server))};

const config: NextConfig = {
  // Other projects may lie in the folders above.
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
  poweredByHeader: false,
  // While you develop, the framework needs more than this.
  headers: () =>
    Promise.resolve(
      process.env.NODE_ENV === 'production'
        ? [{ source: '/:path*', headers: [{ key: 'Content-Security-Policy', value: POLICY }] }]
        : [],
    ),
};

export default config;
`,
    'smoke.mjs': smokeFile(`['next', 'start', '-p', '3100']`, 'http://localhost:3100/'),
    'README.md': readme(what, {
      about:
        'The search page as a Next.js project. First results come from its server, without a second request in the browser. It is yours to change: nothing in it is made anew by itself.',
      commands: ['npm install', 'npm run dev'],
      files: [
        ['app/page.tsx', 'the page on the server: what the address asks for, and the answer'],
        [`app/${pathSegment(page.collection)}/[id]/page.tsx`, 'the page of a record'],
        ['app/sitemap.ts', 'the pages of all records, ten thousand at most'],
        ['search/search-page.tsx', 'the page in the browser: its state, and its parts in their places'],
        ...partsNamed(what, 'search/'),
        ['search/texts.ts', 'the page’s own texts'],
        [
          Object.keys(styles)
            .map((name) => `search/${name}`)
            .join('`, `'),
          'colours, type, and styles of its own',
        ],
        ['search/yucca.ts', 'where Yucca is, what is asked for, where a record’s page is'],
        ['.env', 'the address of Yucca, the key, and where this site is'],
        [KIT_FILE, 'the kit, packed: no registry is needed for it'],
      ],
      policy: startedInside(server),
      more: '`npm run build` and `npm start` serve the page, `npm run check` looks for wrong types, `npm run smoke` uses it in a browser.',
    }),
  };
};

function layoutFile({ page, language, server }: TakenAway): string {
  const links = page.header?.links ?? [];
  const body = `
export const metadata: Metadata = { title: ${literal(page.title)}, description: TEXTS.search };

export default function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang=${literal(language)}>
      <body>
        <header>
          <h1>${titleOf(page, server)}</h1>
          ${
            links.length === 0
              ? ''
              : `<nav aria-label="Links">
            ${links.map(({ label, href }) => `<a href={${literal(linkFrom(server, href))}}>{${literal(label)}}</a>`).join("{' '}\n")}
          </nav>`
          }
        </header>
        <main>{children}</main>
      </body>
    </html>
  );
}
`;
  return `import '@yucca/kit/styles.css';
import '../search/theme.css';
${page.css ? `import '../search/own.css';\n` : ''}import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { TEXTS } from '../search/texts';
${body}`;
}

function pageFile({ page }: TakenAway): string {
  const grows = page.paging !== 'pages';
  const body = `
interface PageProps {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

export default async function Page({ searchParams }: PageProps) {
  const sent = Object.entries(await searchParams).flatMap(([name, value]) =>
    [value ?? []].flat().map((one) => [name, one]),
  );
  const { query } = parseAddress(new URLSearchParams(sent).toString(), FACETS);
  const ask = (one: Query): Promise<SearchAnswer> => client.search(COLLECTION, requestFor(one, REQUEST));
  const answer = await ${grows ? 'pagesUpTo(query, ask)' : 'ask(query)'};
  const elsewhere = redirectOf(answer);
  if (elsewhere !== null) redirect(elsewhere);
  return <SearchPage query={query} answer={answer} />;
}
`;
  const own = {
    '../search/facets': 'FACETS',
    '../search/search-page': 'SearchPage',
    '../search/yucca': 'client COLLECTION REQUEST',
  };
  return `${importsOf(body, { 'next/navigation': 'redirect', ...own })}${body}`;
}

function recordFile({ page, keyField }: TakenAway): string {
  const { card } = page;
  const format = cardFormatOf(page);
  const money = format === null ? '' : `, ${literal(format)}`;
  const parts = [
    'title',
    ...(card.picture === null ? [] : ['picture', 'smaller']),
    ...(['detail', 'text', 'number'] as const).filter((part) => card[part] !== null),
  ];
  const body = `
interface RecordProps {
  params: Promise<{ id: string }>;
}

/** The record that an address names, asked for once a request. */
const recordOf = cache(async (params: RecordProps['params']): Promise<SearchResult> => {
  const key = decodeURIComponent((await params).id);
  // In the condition, a quote is written twice.
  const filter = \`"${(keyField ?? 'id').replace(/["\\`$]/g, '')}" = '\${key.replaceAll("'", "''")}'\`;
  const { results } = await client.search(COLLECTION, { filter, size: 1, record: false });
  return results[0] ?? notFound();
});

export async function generateMetadata({ params }: RecordProps): Promise<Metadata> {
  return { title: shownHit(await recordOf(params), CARD).title.text };
}

export default async function RecordPage({ params }: RecordProps) {
  const { ${parts.join(', ')} } = shownHit(await recordOf(params), CARD, SERVER);
  return (
    <article data-yucca="">
      ${card.picture === null ? '' : '{picture && <img srcSet={smaller} sizes="400px" src={picture} alt="" width={400} height={300} fetchPriority="high" />}'}
      <h2>{title.text}</h2>
      ${card.detail === null ? '' : '{detail && <p>{detail.text}</p>}'}
      ${
        card.number === null
          ? ''
          : `{number && (
        <p>
          ${
            hasOwnTexts(page)
              ? `{PAGE_TEXTS.label(number.label)} <b>{PAGE_TEXTS.figure(number.value${money})}</b>`
              : `{number.label} <b>{figureText(number${money})}</b>`
          }
        </p>
      )}`
      }
      ${card.text === null ? '' : '{text && <p>{text.text}</p>}'}
      <p>
        <a href="/">{TEXTS.search}</a>
      </p>
    </article>
  );
}
`;
  const own = {
    react: 'cache',
    'next/navigation': 'notFound',
    next: '*Metadata',
    '../../../search/card': 'CARD',
    '../../../search/texts': 'PAGE_TEXTS TEXTS',
    '../../../search/yucca': 'client COLLECTION SERVER',
  };
  return `${importsOf(body, own)}${body}`;
}

function sitemapFile({ page }: TakenAway): string {
  return `import type { MetadataRoute } from 'next';
import { client, COLLECTION, recordHref } from '../search/yucca';

/** As many as an answer holds, and as far as pages go. */
const SIZE = 200;
const MOST = 10_000;

// The records are asked for when somebody reads it, not when the site is built.
export const dynamic = 'force-dynamic';

/** The page, and the pages of its records: the first ten thousand. */
export default async function sitemap(): Promise<MetadataRoute.Sitemap> {
  const site = (process.env.SITE ?? '').replace(/\\/$/, '');
  const entries: MetadataRoute.Sitemap = [{ url: \`\${site}/\` }];
  for (let page = 1; page * SIZE <= MOST; page++) {
    const { results, pages } = await client.search(COLLECTION, { page, size: SIZE, fields: [${literal(page.card.title ?? 'id')}], record: false });
    for (const result of results) entries.push({ url: site + recordHref(result) });
    if (page >= pages) break;
  }
  return entries;
}
`;
}

const notFoundFile = ({ page }: TakenAway): string => `import { TEXTS } from '../search/texts';

export default function NotFound() {
  return (
    <>
      <h2>{${literal(textsOf(page.locale, page.texts).say('nothing'))}}</h2>
      <p>
        <a href="/">{TEXTS.search}</a>
      </p>
    </>
  );
}
`;

/** The strictest policy the page works under without a nonce: the framework starts itself with scripts in the page. */
const startedInside = (server: string): string =>
  policyOf(
    {
      'script-src': "'self' 'unsafe-inline'",
      'style-src': "'self' 'unsafe-inline'",
      'connect-src': `'self' ${server}`,
    },
    `'self' ${server}`,
  );
