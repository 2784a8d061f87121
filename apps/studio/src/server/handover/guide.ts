import {
  completeTuning,
  type InterfacePage,
  type SearchAnswer,
  type SearchRequest,
  type TuningDocument,
} from '@yucca/contract';
import { parseAddress, printAddress, withText, withToggled, EMPTY_QUERY } from '@yucca/kit';
import { asMarkdown } from './escape';

export interface GuideParts {
  page: InterfacePage;
  /** Where Yucca is reached, without a slash at the end. */
  server: string;
  tuning: TuningDocument;
  ask: (request: SearchRequest) => Promise<SearchAnswer>;
}

/** Texts of examples are cut after so many letters. */
const LONGEST = 120;

/** How a collection is searched, on one page for a colleague or an assistant: what there is, and real answers. */
export async function guideOf({ page, server, tuning: document, ask }: GuideParts): Promise<string> {
  const { collection, slug, title, facets, sorts, pageSize } = page;
  const tuning = completeTuning(document);
  const path = `${server}/api/v1/collections/${encodeURIComponent(collection)}`;
  const all = await ask({ size: 1, facets: facets.map(({ name }) => name), record: false });
  const [first] = all.results;
  const name = page.card.title === null ? undefined : first?.record[page.card.title];
  const word = /\p{L}{4,}/u.exec(typeof name === 'string' ? name : '')?.[0] ?? '';
  const asked = await ask({ q: word, size: 2, record: false });
  const facet = facets.find(({ kind }) => kind === 'values' || kind === 'tree');
  const values = facet ? valuesOf(all, facet.name) : [];
  const address = printAddress(
    facet && values[0] ? withToggled(withText(EMPTY_QUERY, word), facet.name, values[0]) : withText(EMPTY_QUERY, word),
  );
  const back = parseAddress(address, facets).query;
  return `# How “${asMarkdown(title)}” is searched

A collection of ${all.total.toLocaleString('en')} records called \`${collection}\`, on a Yucca at \`${server}\`. The
page: \`${server}${page.at}\`. All routes are described at \`${server}/api/v1/openapi.json\`.

## Asking

\`\`\`http
GET ${path}/search?q=${encodeURIComponent(word)}&facets=*&size=${pageSize}&key=YOUR-SEARCH-KEY
\`\`\`

or the same as JSON: \`POST ${path}/search\` with \`Authorization: Bearer YOUR-SEARCH-KEY\`. A search key can do nothing but
search; an owner makes one under Keys. \`q\` is what somebody typed, as typed: the last word may be unfinished, words may be
misspelt. Empty, it finds everything.

- Searched: ${tuning.search.length === 0 ? 'every field that holds text' : tuning.search.map(({ field, weight }) => `\`${field}\` (weight ${weight})`).join(', ')}.
- Language \`${tuning.language}\`; ${tuning.synonyms.length} synonym rules, ${tuning.placements.length} placements.
- \`page\` (from 1) and \`size\` (up to 200); \`fields\`: which fields of each record to return.
${sorts.length === 0 ? '' : `- \`sort\`: ${sorts.map((sort) => `\`${sort.name}\` (${asMarkdown(sort.label)})`).join(', ')}; without it, by relevance.\n`}- \`filter\`: a condition in CQL2-Text, such as \`price < 20 AND colour = 'red'\`; names of fields as in the records.
- While typing: \`GET ${path}/suggest?q=…\` answers completions.

## Facets

${facets.length === 0 ? 'There are none.' : 'Chosen with `select` (JSON): `{"name": ["value"]}`, or `{"name": {"min": 1, "max": 2}}` for numbers and dates.\n'}
${facets.map(({ name: facetName, kind, label }) => factOf(all, facetName, kind, label)).join('\n')}

## Answers

\`results\` with \`id\`, \`record\`, \`marks\` (where the words stand, by JSON Pointer, in UTF-16 units) and \`snippets\`; \`total\`,
\`page\`, \`pages\`; \`facets\` with counts; \`understood\`: what each word was taken for. The answer to \`q=${asMarkdown(word)}\`, two
results of ${asked.total.toLocaleString('en')}:

\`\`\`json
${JSON.stringify(shortened({ total: asked.total, results: asked.results, understood: asked.understood.words }), null, 2)}
\`\`\`

A record:

\`\`\`json
${JSON.stringify(shortened(first?.record ?? {}), null, 2)}
\`\`\`

## The address of the page

\`${server}/s/${slug}?${address}\` asks for ${back.q === '' ? 'everything' : `“${asMarkdown(back.q)}”`}${Object.keys(back.select).length > 0 ? `, with ${asMarkdown(facet!.label)} chosen` : ''}:
\`q\`, one parameter for each facet, \`sort\`, \`page\`.

## Errors

Problem Details (RFC 9457) as \`application/problem+json\`: \`status\`, \`title\`, \`detail\`, and \`errors\` with a JSON Pointer for each
part of the request that is wrong. 401: no key or a wrong one; 403: a key for other sites or collections; 429: too many
requests, with \`Retry-After\`; 503: starting, ask again.
`;
}

function valuesOf(answer: SearchAnswer, name: string): string[] {
  const facet = answer.facets[name];
  if (facet?.kind === 'values') return facet.values.map(({ value }) => value);
  return facet?.kind === 'tree' ? facet.nodes.map(({ value }) => value) : [];
}

/** A facet with what can be chosen in it. */
function factOf(answer: SearchAnswer, name: string, kind: string, label: string): string {
  const facet = answer.facets[name];
  const told =
    facet?.kind === 'numbers'
      ? `from ${facet.min} to ${facet.max}`
      : valuesOf(answer, name)
          .slice(0, 8)
          .map((value) => `\`${value.slice(0, 40).replaceAll('`', '')}\``)
          .join(', ');
  return `- \`${name}\` (${asMarkdown(label)}; ${kind}): ${told}`;
}

/** A copy in which long texts and lists are cut. */
function shortened(value: unknown): unknown {
  if (typeof value === 'string') return value.length > LONGEST ? `${value.slice(0, LONGEST)}…` : value;
  if (Array.isArray(value)) return value.slice(0, 5).map(shortened);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([name, inner]) => [name, shortened(inner)]));
}
