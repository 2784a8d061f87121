import { FACET_KINDS, facetValues, type FacetValue, type Tuning } from '@yucca/contract';
import { memoByObject } from '../memo/by-object.ts';
import { wordsOfName, type Word } from '../text/words.ts';
import type { Generation } from '../segment/generation.ts';
import type { QueryContext } from './context.ts';
import { NameIndex } from './name-index.ts';
import { search } from './search.ts';

/** A value of a facet, with its name cut into words. */
export interface NamedValue extends FacetValue {
  facet: string;
  written: readonly Word[];
}

/** The values of a collection's facets, and an index of their names. */
export interface NamedValues {
  values: readonly NamedValue[];
  names: NameIndex;
}

/** Kept for different days and filters: scoped tokens may bring many. */
const MOST_KEPT = 20;

/** By day, forced filter and filter. */
const valuesOf = memoByObject<Generation, (tuning: Tuning) => Map<string, NamedValues>>(() =>
  memoByObject(() => new Map()),
);
/** Writes change the counts, and hardly ever the names: the index made last is used again where they are the same. */
const lastIndexOf = memoByObject<Tuning, { names: NameIndex | null }>(() => ({ names: null }));

/**
 * All values that facets have over the collection, or over what fulfils `filter`, with their counts: what completions
 * are taken from with every keystroke. Counted once for each state of the collection.
 */
export function namedValues(
  generation: Generation,
  tuning: Tuning,
  context: QueryContext,
  filter?: string,
): NamedValues {
  const kept = valuesOf(generation)(tuning);
  const key = JSON.stringify([context.today, context.forcedFilter, filter]);
  let values = kept.get(key);
  values ??= indexed(countAll(generation, tuning, context, filter), tuning);
  // In the order of their use: many filters do not push out the one that everybody asks with.
  kept.delete(key);
  kept.set(key, values);
  if (kept.size > MOST_KEPT) kept.delete(kept.keys().next().value!);
  return values;
}

function indexed(values: readonly NamedValue[], tuning: Tuning): NamedValues {
  const written = values.map((value) => value.written);
  const last = lastIndexOf(tuning);
  const names = last.names?.isOf(written) ? last.names : new NameIndex(written);
  last.names = names;
  return { values, names };
}

/** Names cut into words, each once: they come again with every state of the collection. */
const cut = new Map<string, readonly Word[]>();
const MOST_CUT = 200_000;

function wordsOf(label: string): readonly Word[] {
  let written = cut.get(label);
  if (written === undefined) {
    if (cut.size >= MOST_CUT) cut.clear();
    cut.set(label, (written = wordsOfName(label)));
  }
  return written;
}

function countAll(generation: Generation, tuning: Tuning, context: QueryContext, filter?: string): NamedValue[] {
  const facets = tuning.facets.filter(({ kind }) => FACET_KINDS[kind].named);
  if (facets.length === 0) return [];
  const whole = { ...tuning, facets: facets.map((facet) => ({ ...facet, size: Infinity })) };
  const names = facets.map(({ name }) => name);
  const answer = search(
    generation,
    whole,
    { facets: names, size: 0, record: false, ...(filter && { filter }) },
    context,
  );
  return names.flatMap((facet) =>
    facetValues(answer.facets[facet])
      .filter(({ count }) => count > 0)
      .map((value) => ({ ...value, facet, written: wordsOf(value.label) })),
  );
}
