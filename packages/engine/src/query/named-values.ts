import { facetValues, type FacetValue, type Tuning } from '@yucca/contract';
import { words, type Word } from '../text/words.ts';
import type { Generation } from '../segment/generation.ts';
import type { SearchContext } from './context.ts';
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

/** Kept for different days and forced filters: scoped tokens may bring many. */
const MOST_KEPT = 20;

/** A generation and a tuning never change, so what is kept under them is right as long as they live. */
const kept = new WeakMap<Generation, WeakMap<Tuning, Map<string, NamedValues>>>();
/** Writes change the counts, and hardly ever the names: the index made last is used again where they are the same. */
const lastIndex = new WeakMap<Tuning, NameIndex>();

/**
 * All values that facets have over the whole collection, with their counts: what completions are taken from with every
 * keystroke. Counted once for each state of the collection.
 */
export function namedValues(generation: Generation, tuning: Tuning, context: SearchContext): NamedValues {
  const ofGeneration = kept.get(generation) ?? new WeakMap<Tuning, Map<string, NamedValues>>();
  kept.set(generation, ofGeneration);
  const ofTuning = ofGeneration.get(tuning) ?? new Map<string, NamedValues>();
  ofGeneration.set(tuning, ofTuning);
  const key = JSON.stringify([context.today, context.forcedFilter]);
  let values = ofTuning.get(key);
  if (!values) {
    values = indexed(countAll(generation, tuning, context), tuning);
    if (ofTuning.size >= MOST_KEPT) ofTuning.clear();
    ofTuning.set(key, values);
  }
  return values;
}

function indexed(values: readonly NamedValue[], tuning: Tuning): NamedValues {
  const written = values.map((value) => value.written);
  const last = lastIndex.get(tuning);
  const names = last?.isOf(written) ? last : new NameIndex(written);
  lastIndex.set(tuning, names);
  return { values, names };
}

/** Names cut into words, each once: they come again with every state of the collection. */
const cut = new Map<string, readonly Word[]>();
const MOST_CUT = 200_000;

function wordsOf(label: string): readonly Word[] {
  let written = cut.get(label);
  if (written === undefined) {
    if (cut.size >= MOST_CUT) cut.clear();
    cut.set(label, (written = words(label)));
  }
  return written;
}

function countAll(generation: Generation, tuning: Tuning, context: SearchContext): NamedValue[] {
  const facets = tuning.facets.filter(({ kind }) => kind === 'values' || kind === 'tree');
  if (facets.length === 0) return [];
  const whole = { ...tuning, facets: facets.map((facet) => ({ ...facet, size: Infinity })) };
  const names = facets.map(({ name }) => name);
  const answer = search(generation, whole, { facets: names, size: 0, record: false }, context);
  return names.flatMap((facet) =>
    facetValues(answer.facets[facet])
      .filter(({ count }) => count > 0)
      .map((value) => ({ ...value, facet, written: wordsOf(value.label) })),
  );
}
