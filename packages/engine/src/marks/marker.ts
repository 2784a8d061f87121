import type { Range, RecordJson, Tuning } from '@yucca/contract';
import type { QueryWord } from '../query/parse.ts';
import type { Alternative } from '../query/readings.ts';
import { leavesAt } from '../record/paths.ts';
import { stemmerFor } from '../text/stem.ts';
import { blankTags, tokens, type Token } from '../text/tokens.ts';
import { sourceEnd } from '../text/words.ts';
import { lacksLetters, letterMask, typoDistances } from './distance.ts';

/** A match in one string: `[start, end)`, and which word of the query it is of. */
export interface Hit {
  start: number;
  end: number;
  word: number;
}

/** The matches of one record: by JSON Pointer of a string, in order. */
export interface RecordHits {
  strings: Map<string, { field: string; source: string; hits: Hit[] }>;
}

interface Place {
  pointer: string;
  field: string;
  source: string;
  start: number;
  end: number;
}

/** The matches of one query word in one record, at the fewest typos found so far. */
class BestMatches {
  typos = Infinity;
  places: Place[] = [];

  offer(typos: number, place: Place): void {
    if (typos > this.typos) return;
    if (typos < this.typos) {
      this.typos = typos;
      this.places = [];
    }
    this.places.push(place);
  }
}

/** How a word of the query reads a word of a record; `letters` > 0 = only its beginning, that long. */
interface Reading {
  typos: number;
  letters: number;
}

/**
 * Finds what matched in the records of one answer: the typed part of a word that only begins with it, the whole word
 * otherwise. Each query word keeps only its best reading in a record: where `rose` stands as typed, the misspelling `rosa`
 * is not marked for it. The few records shown are read once more, which keeps offsets out of the index; how a word reads
 * is remembered, since the records of one answer share most words.
 */
export class Marker {
  readonly #query: readonly QueryWord[];
  readonly #alternatives: readonly (readonly Alternative[])[];
  readonly #fields: readonly string[];
  readonly #tuning: Tuning;
  readonly #known: Map<string, Reading | null>[];
  readonly #stem: ((word: string) => string) | null;

  constructor(
    query: readonly QueryWord[],
    alternatives: readonly (readonly Alternative[])[],
    fields: readonly string[],
    tuning: Tuning,
  ) {
    this.#query = query;
    this.#alternatives = alternatives;
    this.#fields = fields;
    this.#tuning = tuning;
    this.#known = query.map(() => new Map<string, Reading | null>());
    this.#stem = tuning.stems ? stemmerFor(tuning.language) : null;
  }

  find(record: RecordJson): RecordHits {
    if (this.#query.length === 0) return { strings: new Map() };
    const best = this.#query.map(() => new BestMatches());
    const { html, typos } = this.#tuning;
    for (const field of this.#fields) {
      const exact = typos.exactFields.includes(field);
      leavesAt(record, field, (value, pointer) => {
        const source = String(value);
        const list = tokens(html.includes(field) ? blankTags(source) : source);
        best.forEach((matches, index) => this.#offer(matches, index, list, { pointer, field, source }, exact));
      });
    }
    return collect(best);
  }

  #offer(
    matches: BestMatches,
    index: number,
    list: readonly Token[],
    string: { pointer: string; field: string; source: string },
    exact: boolean,
  ): void {
    const { phrase } = this.#query[index]!;
    if (phrase === null) {
      for (const { text, start, end } of list) {
        const reading = this.#read(index, text);
        if (reading === null || (exact && reading.typos > 0)) continue;
        const to = reading.letters > 0 ? sourceEnd(string.source, start, end, reading.letters) : end;
        matches.offer(reading.typos, { ...string, start, end: to });
      }
    }
    const sequences = phrase !== null ? [phrase] : this.#alternatives[index]!.map(({ words }) => words);
    for (const words of sequences) {
      if (words.length === 1 && phrase === null) continue;
      for (const run of standTogether(list, words)) {
        for (const { start, end } of run) matches.offer(0, { ...string, start, end });
      }
    }
  }

  #read(index: number, word: string): Reading | null {
    const known = this.#known[index]!;
    let reading = known.get(word);
    if (reading === undefined) known.set(word, (reading = this.#compute(index, word)));
    return reading;
  }

  #compute(index: number, word: string): Reading | null {
    const query = this.#query[index]!;
    if (query.text === word) return { typos: 0, letters: 0 };
    const singles = this.#alternatives[index]!.filter(({ words }) => words.length === 1);
    if (singles.some(({ words }) => words[0] === word)) return { typos: 0, letters: 0 };
    if (this.#stem !== null && this.#stem(query.text) === this.#stem(word)) return { typos: 0, letters: 0 };
    const joined = singles.find(({ words, prefix }) => prefix && word.startsWith(words[0]!));
    if (joined) return { typos: 0, letters: joined.words[0]!.length };
    if (query.prefix && word.startsWith(query.text)) return { typos: 0, letters: query.text.length };
    const typos = this.#typosOf(query, word);
    return typos === null ? null : { typos, letters: 0 };
  }

  #typosOf({ text, prefix, typos: most }: QueryWord, word: string): number | null {
    if (most === 0 || word.length < text.length - most) return null;
    if (!prefix && word.length > text.length + most) return null;
    if (!this.#tuning.typos.firstLetter && text.charCodeAt(0) !== word.charCodeAt(0)) return null;
    if (lacksLetters(letterMask(text), letterMask(word), most)) return null;
    // No beginning that is longer than this can be within the distance.
    const distance = typoDistances(text, word.slice(0, text.length + most + 1));
    const typos = prefix ? Math.min(distance.whole, distance.prefix) : distance.whole;
    return typos <= most ? typos : null;
  }
}

/** Runs of tokens that are some words side by side. Several tokens may share a place: parts and joined forms. */
function standTogether(list: readonly Token[], words: readonly string[]): Token[][] {
  const runs: Token[][] = [];
  for (const first of list) {
    if (first.text !== words[0]) continue;
    const run = words.map((word, i) => list.find(({ text, place }) => text === word && place === first.place + i));
    if (run.every((token) => token !== undefined)) runs.push(run);
  }
  return runs;
}

function collect(best: readonly BestMatches[]): RecordHits {
  const strings: RecordHits['strings'] = new Map();
  best.forEach(({ places }, word) => {
    for (const { pointer, field, source, start, end } of places) {
      const string = strings.get(pointer);
      if (string) string.hits.push({ start, end, word });
      else strings.set(pointer, { field, source, hits: [{ start, end, word }] });
    }
  });
  return { strings };
}

/** Ranges in order, the ones that overlap joined. */
export function joinHits(hits: readonly { start: number; end: number }[]): Range[] {
  const joined: Range[] = [];
  for (const { start, end } of [...hits].sort((a, b) => a.start - b.start || a.end - b.end)) {
    const last = joined.at(-1);
    if (last && start < last[1]) last[1] = Math.max(last[1], end);
    else joined.push([start, end]);
  }
  return joined;
}
