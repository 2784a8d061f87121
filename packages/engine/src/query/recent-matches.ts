import type { WordMatch } from './word-match.ts';

/** What the matches of one segment may hold of memory in all. A set of a million documents is 125 kB. */
const MOST_BYTES = 32 * 2 ** 20;
/** Rough size of a reading, and of an entry without any: a misspelt word has thousands of readings at times. */
const READING_BYTES = 120;
const ENTRY_BYTES = 400;

/**
 * Matches of recent words in one segment, the least recently used given up first. While a person types, every word but
 * the last stays the same, and short beginnings are typed by everybody. A segment never changes, so a match holds as long
 * as the segment does; its sets are kept, which lets counts be remembered with them (see facets/known-counts.ts).
 */
export class RecentMatches {
  readonly #matches = new Map<string, { match: WordMatch; bytes: number }>();
  #bytes = 0;

  get(key: string, make: () => WordMatch): WordMatch {
    const found = this.#matches.get(key);
    if (found !== undefined) {
      this.#matches.delete(key);
      this.#matches.set(key, found);
      return found.match;
    }
    const match = make();
    for (const set of match.within) set.keep();
    const bytes = sizeOf(match);
    this.#matches.set(key, { match, bytes });
    this.#bytes += bytes;
    for (const [oldest, entry] of this.#matches) {
      if (this.#bytes <= MOST_BYTES || oldest === key) break;
      this.#matches.delete(oldest);
      this.#bytes -= entry.bytes;
    }
    return match;
  }
}

function sizeOf({ within, readings }: WordMatch): number {
  let bytes = ENTRY_BYTES + readings.length * READING_BYTES;
  for (const { bits } of within) bytes += bits.byteLength;
  for (const { together } of readings)
    if (together !== null) bytes += together.docs.byteLength + together.places.byteLength;
  return bytes;
}
