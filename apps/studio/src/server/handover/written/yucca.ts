import type { TakenAway } from '../targets/target';
import { importsOf } from './imports';
import { literal } from './literal';

/**
 * Where Yucca is and what is asked of it. `env` reads a variable of the environment;
 * `ownPages` is the path of record pages, when the site has its own.
 */
export function yuccaFile({ page }: TakenAway, env: (name: string) => string, ownPages: string | null = null): string {
  const { slug, collection, pageSize, facets, autocomplete, shelves = [], badges } = page;
  // Records of other collections are shown where those have their pages.
  const others = [...autocomplete, ...shelves].flatMap((section) =>
    section.collection !== undefined && section.collection !== collection && section.at
      ? [[section.collection, `${section.at}/r`] as const]
      : [],
  );
  const body = `
/** Where Yucca is reached. */
export const SERVER: string = ${env('YUCCA_SERVER')};
const KEY: string = ${env('YUCCA_KEY')};

export const client = createClient({ base: SERVER, key: KEY });
/** Tells Yucca what visitors do with results; silent where their browser asks not to be followed. */
export const insights = createInsights({ base: SERVER, key: KEY });
/** What visitors search with: their searches are told apart by visit. */
export const visitorClient = insights.noting(client, ${literal(slug)});
/** What this visitor has asked for and looked at, kept on their device. */
export const memory = createMemory(${literal(slug)});

export const COLLECTION = ${literal(collection)};
/** What is asked for with every query. */
export const REQUEST = { facets: ${facets.length > 0 ? 'FACETS.map(({ name }) => name)' : '[] as string[]'}, size: ${pageSize}${badges === undefined ? '' : `, conditions: ${literal(badges.map(({ where }) => where))}`} };

const ADDRESS = addressMap(FACETS);

/** The address of a query. */
export const hrefOf = (query: Query): string => ADDRESS.write(query, { pathname: './' });
${recordPages(ownPages ?? `${page.at}/r`, Object.fromEntries(others), ownPages === null)}`;
  return importsOf(body, { './facets': 'FACETS' }) + body;
}

/** Where a record is shown: on the pages that Yucca hosts, until its owner has others. */
function recordPages(own: string, others: Record<string, string>, hosted: boolean): string {
  if (Object.keys(others).length === 0)
    return `
/** The page of a record. Lead it to your own when you have one. */
export const recordHref = ({ id }: { id: string }): string => \`${hosted ? '${SERVER}' : ''}${own}/\${encodeURIComponent(id)}\`;
`;
  return `
/** Where records of other collections have their pages. */
const OTHER_PAGES: Record<string, string> = ${literal(others)};

/** The page of a record. Lead it to your own when you have one. */
export function recordHref({ id, collection = COLLECTION }: { id: string; collection?: string }): string {
  const other = OTHER_PAGES[collection];
  const pages = other === undefined ? ${hosted ? `SERVER + ${literal(own)}` : literal(own)} : SERVER + other;
  return \`\${pages}/\${encodeURIComponent(id)}\`;
}
`;
}
