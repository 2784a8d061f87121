import { type RecordJson, type Suggestion, type SuggestAnswer, type Tuning } from '@yucca/contract';
import { words } from '../text/words.ts';
import { eachLeaf, leavesAt } from '../record/paths.ts';
import type { Generation, SearchContext } from './generation.ts';
import { search } from './search.ts';
import { askedWords, readName } from './facet-search.ts';
import { namedValues } from './named-values.ts';

/**
 * Completions of what is being typed: facet values whose name goes on from it, titles of the best records, and
 * `pastQueries` that begin like it and still find something. Nothing is suggested that a forced filter hides.
 */
export function suggest(
  generation: Generation,
  tuning: Tuning,
  q: string,
  size: number,
  pastQueries: readonly string[] = [],
  context: SearchContext = {},
): SuggestAnswer {
  const typed = words(q)
    .map(({ text }) => text)
    .join(' ');
  if (typed === '') return { q, suggestions: [] };
  const found = [
    ...fromQueries(generation, tuning, typed, pastQueries, context),
    ...fromValues(generation, tuning, q, size, context),
    ...fromRecords(generation, tuning, q, size, context),
  ];
  const seen = new Set<string>();
  const distinct = found.filter(({ text }) => {
    const folded = words(text)
      .map((word) => word.text)
      .join(' ');
    return !seen.has(folded) && seen.add(folded);
  });
  return { q, suggestions: distinct.slice(0, size) };
}

function fromQueries(
  generation: Generation,
  tuning: Tuning,
  typed: string,
  pastQueries: readonly string[],
  context: SearchContext,
): Suggestion[] {
  return pastQueries.flatMap((text): Suggestion[] => {
    const folded = words(text)
      .map((word) => word.text)
      .join(' ');
    if (!folded.startsWith(typed) || folded === typed) return [];
    const { total } = search(generation, tuning, { q: text, size: 0 }, context);
    return total === 0
      ? []
      : [{ text, ranges: [[0, Math.min(typed.length, text.length)]], count: total, kind: 'query' }];
  });
}

function fromValues(
  generation: Generation,
  tuning: Tuning,
  q: string,
  size: number,
  context: SearchContext,
): Suggestion[] {
  const asked = askedWords(q, tuning);
  const fits = namedValues(generation, tuning, context).flatMap((named) => {
    const match = readName(named.written, asked);
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
  context: SearchContext,
): Suggestion[] {
  const titles = [...tuning.search].sort((a, b) => b.weight - a.weight).map(({ field }) => field);
  const { results } = search(generation, tuning, { q, size, record: false }, context);
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
