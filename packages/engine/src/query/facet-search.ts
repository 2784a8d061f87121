import { facetValues, LIMITS, type FacetValuesAnswer, type SearchRequest, type Tuning } from '@yucca/contract';
import { sourceEnd, words, wordsOfName, type Word } from '../text/words.ts';
import { typoDistances } from '../text/distance.ts';
import type { Generation } from '../segment/generation.ts';
import { SearchRequestError, type QueryContext } from './context.ts';
import { typosAllowed } from './parse/parse-query.ts';
import { search } from './search.ts';

/**
 * Looks for a text inside the values of one facet: each word of it must begin a word of the value's name, typos allowed
 * as in a search. Counts are those within the current query, choices and filter. Throws a SearchRequestError.
 */
export function searchFacet(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  name: string,
  text: string,
  size: number,
  context: QueryContext = {},
): FacetValuesAnswer {
  const rule = tuning.facets.find((facet) => facet.name === name);
  if (rule === undefined) throw new SearchRequestError('/field', `There is no facet called “${name}”.`);
  if (rule.kind === 'numbers')
    throw new SearchRequestError('/field', `“${name}” is a range of numbers; it has no values.`);
  // Every value is needed, not only the ones usually listed.
  const whole = { ...rule, size: Infinity };
  const facets = tuning.facets.map((facet) => (facet === rule ? whole : facet));
  const answer = search(generation, { ...tuning, facets }, { ...request, facets: [name], size: 0 }, context);
  const asked = askedWords(text, tuning);
  const found = facetValues(answer.facets[name])
    .filter(({ count, selected }) => count > 0 || selected)
    .flatMap((value) => {
      const match = readName(value.label, wordsOfName(value.label), asked);
      return match === null ? [] : [{ ...value, ...match }];
    })
    .sort((a, b) => a.typos - b.typos || b.count - a.count || (a.value < b.value ? -1 : 1));
  return {
    facet: name,
    q: text,
    values: found
      .slice(0, Math.min(size, LIMITS.valuesPerFacet))
      .map(({ value, label, count, selected, ranges }) => ({ value, label, count, selected, ranges })),
    total: found.length,
  };
}

/** A word that is looked for in names, and the typos it may hold. */
export interface AskedWord {
  text: string;
  typos: number;
}

/** The different words of a text, as many as a query may have. */
export function askedWords(text: string, tuning: Tuning): AskedWord[] {
  const different = new Set(words(text).map((word) => word.text));
  return [...different]
    .slice(0, LIMITS.queryWords)
    .map((word) => ({ text: word, typos: typosAllowed(word, tuning.typos) }));
}

/** How the name of a value fits what is asked for: typos spent and what to mark; null when it does not. */
export function readName(
  name: string,
  written: readonly Word[],
  asked: readonly AskedWord[],
): { typos: number; ranges: [number, number][] } | null {
  let spent = 0;
  const ranges: [number, number][] = [];
  for (const { text, typos } of asked) {
    let best: { typos: number; range: [number, number] } | null = null;
    for (const word of written) {
      const begins = word.text.startsWith(text);
      // What is longer by more than the typos cannot begin a word, whatever its letters.
      const isHopeless = typos === 0 || text.length - word.text.length > typos;
      const distance = begins ? 0 : isHopeless ? Infinity : typoDistances(text, word.text).prefix;
      if (distance > typos || (best !== null && distance >= best.typos)) continue;
      const end = begins ? sourceEnd(name, word.start, word.end, text.length) : word.end;
      best = { typos: distance, range: [word.start, end] };
    }
    if (best === null) return null;
    spent += best.typos;
    ranges.push(best.range);
  }
  return { typos: spent, ranges: ranges.sort((a, b) => a[0] - b[0]) };
}
