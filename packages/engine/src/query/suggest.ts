import {
  eachLeaf,
  leavesAt,
  type RecordJson,
  type SearchRequest,
  type SuggestAnswer,
  type Suggestion,
  type Tuning,
} from '@yucca/contract';
import { findNode, findWord } from '../segment/trie.ts';
import { foldWords, sourceEnd, stretches, type Word } from '../text/words.ts';
import type { Generation } from '../segment/generation.ts';
import type { QueryContext } from './context.ts';
import { countResults, search } from './search.ts';
import { askedWords, readName } from './facet-search.ts';
import { namedValues } from './named-values.ts';
import { parseQuery } from './parse/parse-query.ts';

/** Which records completions are taken from; a condition of CQL2-Text. */
type Within = Pick<SearchRequest, 'filter'>;

/**
 * Completions of what is being typed: `pastQueries` that begin like it and still find something, facet values whose
 * name goes on from it, and titles of the best records, in this order. Queries take half of the list, and those for
 * which there are no values. Nothing is suggested that a forced filter hides.
 *
 * @param pastQueries what others have asked for, the most asked first
 * @param filter CQL2-Text: completions are of the records that fulfil it
 */
export function suggest(
  generation: Generation,
  tuning: Tuning,
  q: string,
  size: number,
  pastQueries: readonly string[] = [],
  context: QueryContext = {},
  filter?: string,
): SuggestAnswer {
  const within: Within = filter ? { filter } : {};
  const typed = stretches(q);
  if (typed.length === 0) return { q, suggestions: [] };
  const seen = new Set<string>();
  const isNew = ({ text }: Suggestion): boolean => {
    const name = foldWords(text);
    return !seen.has(name) && !!seen.add(name);
  };
  // Before the queries: a value narrows the results to just what it names, a query of the same words is the lesser
  // offer.
  const values = fromValues(generation, tuning, q, size, context, within).filter(isNew);
  const mostQueries = Math.max(Math.ceil(size / 2), size - values.length);
  const queries: Suggestion[] = [];
  for (const text of pastQueries) {
    if (queries.length === mostQueries) break;
    const query = readQuery(generation, tuning, typed, text, context, within);
    if (query !== null && isNew(query)) queries.push(query);
  }
  const left = size - queries.length - values.length;
  const titles = left > 0 ? fromRecords(generation, tuning, q, size, context, within).filter(isNew) : [];
  return { q, suggestions: [...queries, ...values, ...titles].slice(0, size) };
}

/**
 * Whether a query is one to offer to others: plain words, all found, none of them misspelt or half-typed. Half-typed is
 * what longer words of the data begin with while it is none of them itself, be it the stem of one (`agav` is).
 */
export function isWorthOffering(
  generation: Generation,
  tuning: Tuning,
  q: string,
  context: QueryContext = {},
): boolean {
  const { words: asked, excluded } = parseQuery(q, tuning);
  if (asked.length === 0 || excluded.length > 0 || asked.some(({ phrase }) => phrase !== null)) return false;
  const tries = generation.segments.map(({ segment }) => segment.trie);
  const isHalf = (word: string): boolean =>
    tries.some((trie) => findNode(trie, word) !== -1) && tries.every((trie) => findWord(trie, word) === -1);
  if (asked.some(({ text }) => isHalf(text))) return false;
  const whole: Tuning = { ...tuning, words: { require: 'all', prefix: 'none' } };
  const { total, understood } = search(generation, whole, { q, size: 0, record: false }, context);
  return total > 0 && understood.words.every(({ typo }) => !typo);
}

/** A past query as a completion of what is typed; null when it is none, or finds nothing now. */
function readQuery(
  generation: Generation,
  tuning: Tuning,
  typed: readonly Word[],
  text: string,
  context: QueryContext,
  within: Within,
): Suggestion | null {
  const begin = typed.map((word) => word.text).join(' ');
  const name = foldWords(text);
  if (!name.startsWith(begin) || name === begin) return null;
  // Not a whole search: of what finds nothing, it would look for the nearest spelling.
  const total = countResults(generation, tuning, { ...within, q: text, size: 0 }, context);
  if (total === 0) return null;
  // One word in what may be seen can be enough to find something; the others would tell what is hidden.
  if (context.forcedFilter !== undefined && !isWorthOffering(generation, tuning, text, context)) return null;
  // Up to the last letter that is typed, which may stand inside a word.
  const written = stretches(text);
  const last = written[typed.length - 1]!;
  const end = sourceEnd(text, last.start, last.end, typed.at(-1)!.text.length);
  return { text, ranges: [[written[0]!.start, end]], count: total, kind: 'query' };
}

function fromValues(
  generation: Generation,
  tuning: Tuning,
  q: string,
  size: number,
  context: QueryContext,
  within: Within,
): Suggestion[] {
  const asked = askedWords(q, tuning);
  const { values, names } = namedValues(generation, tuning, context, within.filter);
  const fits = names.find(asked).flatMap((at) => {
    const named = values[at]!;
    const match = readName(named.label, named.written, asked);
    return match === null ? [] : [{ ...named, ...match }];
  });
  fits.sort((a, b) => a.typos - b.typos || b.count - a.count || (a.value < b.value ? -1 : 1));
  const taken = new Map<string, number>();
  return fits
    .filter(({ facet }) => {
      const already = taken.get(facet) ?? 0;
      taken.set(facet, already + 1);
      return already < size;
    })
    .map(({ facet, value, label, ranges, count }): Suggestion => {
      return { text: label, ranges, count, kind: 'value', facet, value };
    })
    .sort((a, b) => b.count - a.count);
}

function fromRecords(
  generation: Generation,
  tuning: Tuning,
  q: string,
  size: number,
  context: QueryContext,
  within: Within,
): Suggestion[] {
  const titles = [...tuning.search].sort((a, b) => b.weight - a.weight).map(({ field }) => field);
  const { results } = search(generation, tuning, { ...within, q, size, record: false }, context);
  return results.flatMap(({ id, record, marks }): Suggestion[] => {
    const title = titleOf(record, titles, marks);
    return title === null
      ? []
      : [{ text: title.text, ranges: marks[title.pointer] ?? [], count: 1, kind: 'record', id }];
  });
}

/** The text of the weightiest field; where every field counts alike, the first one that what was typed is marked in. */
function titleOf(
  record: RecordJson,
  fields: readonly string[],
  marks: Readonly<Record<string, unknown>>,
): { text: string; pointer: string } | null {
  let title: { text: string; pointer: string } | null = null;
  for (const field of fields) {
    leavesAt(record, field, (value, pointer) => (title ??= { text: String(value), pointer }));
    if (title !== null) return title;
  }
  if (fields.length === 0) {
    eachLeaf(record, (_, value, pointer) => {
      if (typeof value === 'string' && value !== '' && pointer in marks) title ??= { text: value, pointer };
    });
  }
  return title;
}
