/**
 * The forward index: for each document the words of its searchable fields, in the order of its texts. Postings find the
 * documents that hold a word; this tells how a document holds the words of a query, so that scoring reads a few bytes
 * in a row for each document that may stand on the page, and nothing for the others.
 *
 * Entries are 32 bits. A head begins each string: its field, how many words the document has in that field, and the
 * position of the string's first word. A token follows for each word; one that `stays` shares the position of the token
 * before it (parts of a code, joined forms).
 */
/** The sign bit: entries are read as signed numbers, which the machine compares with 0 at once. */
const HEAD = 0x8000_0000;
const STAYS = 0x4000_0000;
const TERM = 0x3fff_ffff;

/** Position of a word within its field, saturated so that field and position share 16 bits. */
export const POSITION_BITS = 10;
export const MAX_POSITION = (1 << POSITION_BITS) - 1;
export const MOST_WORDS = 255;

export function headEntry(field: number, fieldWords: number, start: number): number {
  return HEAD | (field << 18) | (Math.min(fieldWords, MOST_WORDS) << 10) | Math.min(start, MAX_POSITION) | 0;
}

export function tokenEntry(term: number, stays: boolean): number {
  return stays ? STAYS | term : term;
}

export function isHead(entry: number): boolean {
  return entry < 0;
}

export function headField(entry: number): number {
  return (entry >>> 18) & 0x3f;
}

export function headWords(entry: number): number {
  return (entry >>> 10) & 0xff;
}

export function headStart(entry: number): number {
  return entry & MAX_POSITION;
}

export function tokenTerm(entry: number): number {
  return entry & TERM;
}

export function tokenStays(entry: number): boolean {
  return (entry & STAYS) !== 0;
}

/** Whether an entry is a token of this word, whether or not it stays. */
export function isTokenOf(entry: number, term: number): boolean {
  return (entry & ~STAYS) === term;
}

/**
 * Goes through the words of some entries, one after the other: where each stands, and what it is. Made anew for each
 * document, because a short-lived object of a few numbers is one that the compiler keeps in registers.
 */
export class ForwardCursor {
  /** Strings begun so far, counted from 0. */
  string = -1;
  /** Words of the string before this one; parts of a code and joined forms count. */
  token = -1;
  field = 0;
  /** How many words the document has in the field, up to MOST_WORDS. */
  fieldWords = 0;
  /** Of the word within its field, not saturated. */
  position = -1;
  /** It shares the position of the word before it. */
  stays = false;
  term = 0;
  readonly #entries: Int32Array;
  readonly #end: number;
  #at: number;

  constructor(entries: Int32Array, from: number, to: number) {
    this.#entries = entries;
    this.#at = from;
    this.#end = to;
  }

  /** Goes on to the next word; false after the last one. */
  next(): boolean {
    while (this.#at < this.#end) {
      const entry = this.#entries[this.#at++]!;
      if (isHead(entry)) {
        this.string++;
        this.token = -1;
        this.field = headField(entry);
        this.fieldWords = headWords(entry);
        this.position = headStart(entry) - 1;
        continue;
      }
      this.token++;
      this.stays = tokenStays(entry);
      if (!this.stays) this.position++;
      this.term = tokenTerm(entry);
      return true;
    }
    return false;
  }
}
