import { LIMITS } from '@yucca/contract';
import type { Segment } from '../../segment/segment.ts';
import type { ParsedQuery, QueryWord } from '../parse/parse-query.ts';
import { workTogether } from './phrase.ts';

/** Documents that the phrases of a query may make the engine read: some 40 ms of a core. */
const MOST_READ = 500_000;

/**
 * Words of a query times documents: finding a common word with its typos among a million takes about a millisecond,
 * counting those that hold it half of one more. Up to 375,000 documents every query has all its words.
 */
const MOST_LAID = 12_000_000;
/** So many words count in a collection of any size. */
const LEAST_WORDS = 8;

interface Budget {
  mostRead?: number;
  mostLaid?: number;
}

/**
 * Leaves out what a query is not worth: phrases, once those before them may mean reading more documents than
 * `mostRead`, and words, once there are more of them than a collection of that size has time for. What is excluded goes
 * first, then what comes last. The first phrase is never left out, so one phrase of any words is always answered; a
 * phrase may have to be looked for in every document that holds its rarest word.
 */
export function withinBudget(
  parsed: ParsedQuery,
  segments: readonly Segment[],
  { mostRead = MOST_READ, mostLaid = MOST_LAID }: Budget = {},
): ParsedQuery {
  const docs = segments.reduce((sum, segment) => sum + segment.docs, 0);
  const mostWords = Math.min(LIMITS.queryWords, Math.max(LEAST_WORDS, Math.floor(mostLaid / docs)));
  let count = 0;
  let read = 0;
  const left: QueryWord[] = [];
  const isAffordable = (word: QueryWord): boolean => {
    const { phrase } = word;
    let fits = count < mostWords;
    if (fits && phrase !== null && phrase.length > 1) {
      const more = segments.reduce((sum, segment) => sum + workTogether(segment, phrase), 0);
      fits = read === 0 || read + more <= mostRead;
      if (fits) read += more;
    }
    if (fits) count++;
    else left.push(word);
    return fits;
  };
  const words = parsed.words.filter(isAffordable);
  const excluded = parsed.excluded.filter(isAffordable);
  return left.length === 0
    ? parsed
    : { ...parsed, words, excluded, dropped: [...parsed.dropped, ...left.map(({ typed }) => typed)] };
}
