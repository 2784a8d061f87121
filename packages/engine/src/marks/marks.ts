import type { Range, RecordJson } from '@yucca/contract';
import type { QueryWord } from '../query/parse.ts';
import { leavesAt } from '../record/paths.ts';
import { sourceEnd, words, type Word } from '../text/words.ts';
import { lacksLetters, letterMask, typoDistances } from './distance.ts';

export interface MarkField {
  field: string;
  /** No typos in this field. */
  exact: boolean;
}

interface Place {
  pointer: string;
  source: string;
  word: Word;
}

/** The readings of one query word in one record, at the fewest typos found so far. */
class BestReadings {
  typos = Infinity;
  places: { place: Place; isPrefix: boolean }[] = [];

  offer(typos: number, isPrefix: boolean, place: Place): void {
    if (typos > this.typos) return;
    if (typos < this.typos) {
      this.typos = typos;
      this.places = [];
    }
    this.places.push({ place, isPrefix });
  }
}

interface Reading {
  typos: number;
  isPrefix: boolean;
}

/**
 * Marks the records of one answer. The ranges are those that match the query, by JSON Pointer: the typed part of a word
 * that only begins with it, the whole word otherwise. Each query word marks only its best reading in a record: where
 * `rose` stands as typed, `rosa` is not marked for it. Marks are found by reading the few records shown once more, which
 * keeps offsets out of the index; how a word reads is remembered, since the records of one answer share most words.
 */
export class Marker {
  readonly #query: readonly QueryWord[];
  readonly #fields: readonly MarkField[];
  readonly #firstLetter: boolean;
  readonly #known: Map<string, Reading | null>[];

  constructor(query: readonly QueryWord[], fields: readonly MarkField[], firstLetter: boolean) {
    this.#query = query;
    this.#fields = fields;
    this.#firstLetter = firstLetter;
    this.#known = query.map(() => new Map<string, Reading | null>());
  }

  mark(record: RecordJson): Record<string, Range[]> {
    if (this.#query.length === 0) return {};
    const readings = this.#query.map(() => new BestReadings());
    for (const { field, exact } of this.#fields) {
      leavesAt(record, field, (value, pointer) => {
        const source = String(value);
        for (const word of words(source)) {
          readings.forEach((best, index) => {
            const reading = this.#read(index, word.text);
            if (reading === null || (exact && reading.typos > 0)) return;
            best.offer(reading.typos, reading.isPrefix, { pointer, source, word });
          });
        }
      });
    }
    return this.#ranges(readings);
  }

  #ranges(readings: readonly BestReadings[]): Record<string, Range[]> {
    const found = new Map<string, Range[]>();
    readings.forEach(({ places, typos }, index) => {
      for (const { place, isPrefix } of places) {
        const { pointer, source, word } = place;
        const typedPart = isPrefix && typos === 0;
        const letters = this.#query[index]!.text.length;
        const end = typedPart ? sourceEnd(source, word.start, word.end, letters) : word.end;
        const ranges = found.get(pointer);
        if (ranges) ranges.push([word.start, end]);
        else found.set(pointer, [[word.start, end]]);
      }
    });
    return Object.fromEntries([...found].map(([pointer, ranges]) => [pointer, joinRanges(ranges)]));
  }

  #read(index: number, word: string): Reading | null {
    const known = this.#known[index]!;
    let reading = known.get(word);
    if (reading === undefined) {
      reading = readWord(this.#query[index]!, word, this.#firstLetter);
      known.set(word, reading);
    }
    return reading;
  }
}

/** How a query word reads a word of the data, or null when it does not match. */
function readWord(query: QueryWord, word: string, firstLetter: boolean): Reading | null {
  const maxTypos = query.typos;
  if (query.text === word) return { typos: 0, isPrefix: false };
  if (query.prefix && word.startsWith(query.text)) return { typos: 0, isPrefix: true };
  if (maxTypos === 0 || word.length < query.text.length - maxTypos) return null;
  if (!query.prefix && word.length > query.text.length + maxTypos) return null;
  if (!firstLetter && query.text.charCodeAt(0) !== word.charCodeAt(0)) return null;
  if (lacksLetters(letterMask(query.text), letterMask(word), maxTypos)) return null;
  // No beginning that is longer than this can be within the distance.
  const { whole, prefix } = typoDistances(query.text, word.slice(0, query.text.length + maxTypos + 1));
  const typos = query.prefix ? Math.min(whole, prefix) : whole;
  return typos <= maxTypos ? { typos, isPrefix: whole > typos } : null;
}

/** Sorts ranges and joins the ones that overlap. */
function joinRanges(ranges: Range[]): Range[] {
  ranges.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const joined: Range[] = [];
  for (const [start, end] of ranges) {
    const last = joined.at(-1);
    if (last && start < last[1]) last[1] = Math.max(last[1], end);
    else joined.push([start, end]);
  }
  return joined;
}
