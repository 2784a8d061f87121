import { memoByObject } from '../../memo/by-object.ts';
import { TERM_LENGTHS, type Segment } from '../../segment/segment.ts';
import type { Expansion } from './expansions.ts';
import { formFactor, trustIn } from '../../score/text-score.ts';

/**
 * One way a word of the dictionary may read a word of the query: all words with the same typos and form are one code.
 */
export interface Code {
  expansion: Expansion;
  typos: number;
  form: number;
}

/**
 * For one word of a query: which code each word of the dictionary has, 0 = it does not match. With it a document's
 * words are read against any number of expansions by one look each.
 */
export interface TermCodes {
  codes: readonly Code[];
  /** One for each language of the texts. */
  tables: readonly Uint16Array[];
}

/** Working memory of a segment: a table for each word of a query, and which dictionary words any of them knows. */
interface Tables {
  any: Uint8Array;
  free: Uint16Array[];
}

const tablesOf = memoByObject((segment: Segment): Tables => ({ any: new Uint8Array(segment.meta.terms), free: [] }));

/** The codes of one query in one segment, made when they are first needed and given back with `release`. */
export class QueryCodes {
  readonly #segment: Segment;
  readonly #words: readonly { expansions: readonly Expansion[] }[];
  readonly #languages: number;
  #made: { any: Uint8Array; words: TermCodes[] } | null = null;

  /** `languages`: how many the texts are in. */
  constructor(segment: Segment, words: readonly { expansions: readonly Expansion[] }[], languages: number) {
    this.#segment = segment;
    this.#words = words;
    this.#languages = languages;
  }

  /** How many languages the texts are in. */
  get languages(): number {
    return this.#languages;
  }

  /** `any` says which dictionary words have a code for some word of the query. */
  get(): { any: Uint8Array; words: readonly TermCodes[] } {
    if (this.#made === null) {
      const { any, free } = tablesOf(this.#segment);
      const words = this.#words.map(({ expansions }): TermCodes => {
        // Code 0 is "no match"; its entry is never read.
        const codes: Code[] = [{ expansion: expansions[0]!, typos: 9, form: 0 }];
        const tables = Array.from({ length: this.#languages }, (_, language) => {
          const table = free.pop() ?? new Uint16Array(this.#segment.meta.terms);
          fill(this.#segment, expansions, language, codes, table, any);
          return table;
        });
        return { codes, tables };
      });
      this.#made = { any, words };
    }
    return this.#made;
  }

  /** Clears the tables and keeps them for the next query. */
  release(): void {
    if (this.#made === null) return;
    const { any, words } = this.#made;
    this.#made = null;
    this.#words.forEach(({ expansions }, i) => {
      const { tables } = words[i]!;
      for (const { together, from, to } of expansions) {
        if (together !== null) continue;
        any.fill(0, from, to);
        for (const table of tables) table.fill(0, from, to);
      }
      tablesOf(this.#segment).free.push(...tables);
    });
  }
}

/** The code of each length of words in one expansion. */
const byLength = new Uint16Array(TERM_LENGTHS);

/** Writes into a table what each word is in texts of one language, and what is new of it to `codes`. */
function fill(
  segment: Segment,
  expansions: readonly Expansion[],
  language: number,
  codes: Code[],
  table: Uint16Array,
  any: Uint8Array,
): void {
  for (const expansion of expansions) {
    const { together, whole, letters, typos, from, to } = expansion;
    if (together !== null || (expansion.language ?? language) !== language) continue;
    const trust = trustIn(expansion.how, typos);
    byLength.fill(0);
    const codeFor = (length: number): number => {
      const slot = whole ? 0 : length;
      if (byLength[slot] === 0) {
        byLength[slot] = codes.push({ expansion, typos, form: formFactor(trust, whole, letters, length) }) - 1;
      }
      return byLength[slot]!;
    };
    for (let term = from; term < to; term++) {
      const code = codeFor(segment.termLengths[term]!);
      const known = table[term]!;
      // Readings come by typos ascending, so a word that is known already can only be read better in form.
      if (known !== 0 && (codes[known]!.typos < typos || codes[known]!.form >= codes[code]!.form)) continue;
      table[term] = code;
      any[term] = 1;
    }
  }
}
