import type { Segment } from '../segment/segment.ts';
import type { ParsedQuery, QueryWord } from './parse.ts';
import { workTogether } from './phrase.ts';

/** Documents that the phrases of a query may make the engine read: some 50 ms of a core. */
const MOST_READ = 500_000;

/**
 * Leaves out phrases, excluded ones first, once those before them may mean reading more documents than a query is worth. The first
 * phrase is never left out, so one phrase of any words is always answered. A phrase may have to be looked for in every
 * document that holds its rarest word.
 */
export function withinBudget(parsed: ParsedQuery, segments: readonly Segment[], mostRead = MOST_READ): ParsedQuery {
  let read = 0;
  const left: QueryWord[] = [];
  const isAffordable = (word: QueryWord): boolean => {
    const { phrase } = word;
    if (phrase === null || phrase.length < 2) return true;
    const more = segments.reduce((sum, segment) => sum + workTogether(segment, phrase), 0);
    const fits = read === 0 || read + more <= mostRead;
    if (fits) read += more;
    else left.push(word);
    return fits;
  };
  const words = parsed.words.filter(isAffordable);
  const excluded = parsed.excluded.filter(isAffordable);
  return left.length === 0
    ? parsed
    : { words, excluded, dropped: [...parsed.dropped, ...left.map(({ typed }) => typed)] };
}
