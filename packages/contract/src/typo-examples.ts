/** A word as somebody types it, and a word of the data that it is taken for in one version and not in the other. */
export interface TypoExample {
  typed: string;
  as: string;
  typos: number;
  /** Records that hold the word it is taken for. */
  records: number;
}

/** What the typo rules of the draft let in, and keep out, against those of live. */
export interface TypoExamples {
  /** Common words of the data that were tried. */
  tried: number;
  gained: TypoExample[];
  lost: TypoExample[];
  /** Of all that were tried, the examples left out included. */
  gainedCount: number;
  lostCount: number;
}
