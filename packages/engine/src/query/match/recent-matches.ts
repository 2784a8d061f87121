import type { WordMatch } from './word-match.ts';

/** What may be remembered of one segment, by its size: a quarter of it, within bounds. */
const SHARE = 1 / 4;
const LEAST_BYTES = 2 * 2 ** 20;
const MOST_BYTES = 128 * 2 ** 20;
/** Rough size of an expansion, and of an entry without any: a misspelt word has thousands of expansions at times. */
const EXPANSION_BYTES = 120;
const ENTRY_BYTES = 400;

/**
 * Matches of recent words in one segment, the least recently used given up first. While a person types, every word but
 * the last stays the same, and short beginnings are typed by everybody. A segment never changes, so a match holds as
 * long as the segment does; its sets are kept, which lets counts be remembered with them (see facets/known-counts.ts).
 */
export class RecentMatches {
  readonly #matches = new Map<string, { match: WordMatch; bytes: number }>();
  readonly #most: number;
  #bytes = 0;

  /** `bytes` is the size of the segment. */
  constructor(bytes: number) {
    this.#most = Math.min(MOST_BYTES, Math.max(LEAST_BYTES, bytes * SHARE));
  }

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
      if (this.#bytes <= this.#most || oldest === key) break;
      this.#matches.delete(oldest);
      this.#bytes -= entry.bytes;
    }
    return match;
  }
}

function sizeOf({ within, expansions }: WordMatch): number {
  let bytes = ENTRY_BYTES + expansions.length * EXPANSION_BYTES;
  for (const { bits } of within) bytes += bits.byteLength;
  for (const { together } of expansions)
    if (together !== null) bytes += together.docs.byteLength + together.locations.byteLength;
  return bytes;
}
