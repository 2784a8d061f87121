import {
  ForwardCursor,
  headField,
  headStart,
  headWords,
  isHead,
  MAX_POSITION,
  POSITION_BITS,
  tokenStays,
  tokenTerm,
} from '../../segment/forward.ts';
import type { Segment } from '../../segment/segment.ts';
import type { FieldWeights } from '../match/field-weights.ts';
import type { Occurrences } from '../match/phrase.ts';
import type { Expansion } from '../match/expansions.ts';
import {
  closenessFactor,
  FULL_POINTS,
  lengthFactors,
  pairCloseness,
  roundScore,
  startFactor,
  trustIn,
} from '../../score/text-score.ts';
import type { TermCodes } from '../match/term-codes.ts';
import { languageAt } from '../match/text-languages.ts';
import type { SegmentMatch } from '../match/match-query.ts';
import type { WordMatch } from '../match/word-match.ts';

const START = Float64Array.from({ length: MAX_POSITION + 1 }, (_, position) => startFactor(position));
const NO_TYPOS_YET = 9;

/** The best expansion of one word in one document. */
export interface BestExpansion {
  expansion: Expansion;
  /** Dictionary word, or -1. */
  term: number;
  /** Of FULL_POINTS. */
  points: number;
  location: number;
}

/**
 * Scores documents of one segment by reading their words. For each word of the query a document keeps its best
 * expansion: fewest typos, then most points, then the earliest location.
 */
export class Scorer {
  readonly #segment: Segment;
  readonly #words: readonly WordMatch[];
  readonly #fields: FieldWeights;
  readonly #idfs: readonly number[];
  readonly #lengths: Float64Array;
  readonly #total: number;
  readonly #any: Uint8Array;
  readonly #codes: readonly TermCodes[];
  /** By language, then by word of the query. */
  readonly #tables: readonly (readonly Uint16Array[])[];
  /** Per code, flat for the inner loop. */
  readonly #typosOf: Uint8Array[];
  readonly #formOf: Float64Array[];
  readonly #together: { word: number; expansion: Expansion; trust: number; occurrences: Occurrences }[];
  /** Of the document at hand, by word of the query. */
  readonly #points: Int32Array;
  readonly #locations: Int32Array;
  readonly #typos: Uint8Array;
  readonly #terms: Int32Array;
  /** Of words read as several that stand together: which expansion. */
  readonly #winners: (Expansion | null)[];

  constructor({ segment, words, fields, codes: shared }: SegmentMatch, idfs: readonly number[]) {
    this.#segment = segment;
    this.#words = words;
    this.#fields = fields;
    this.#idfs = idfs;
    this.#lengths = lengthFactors(words.length);
    this.#total = idfs.reduce((sum, weight) => sum + weight, 0);
    const { any, words: codes } = shared.get();
    this.#any = any;
    this.#codes = codes;
    this.#tables = Array.from({ length: shared.languages }, (_, language) =>
      codes.map(({ tables }) => tables[language]!),
    );
    this.#typosOf = codes.map(({ codes: list }) => Uint8Array.from(list, ({ typos }) => typos));
    this.#formOf = codes.map(({ codes: list }) => Float64Array.from(list, ({ form }) => form));
    this.#together = words.flatMap(({ expansions }, word) =>
      expansions.flatMap((expansion) =>
        expansion.together === null
          ? []
          : [{ word, expansion, trust: trustIn(expansion.how, expansion.typos), occurrences: expansion.together }],
      ),
    );
    this.#points = new Int32Array(words.length);
    this.#locations = new Int32Array(words.length);
    this.#typos = new Uint8Array(words.length);
    this.#terms = new Int32Array(words.length);
    this.#winners = words.map(() => null);
  }

  /** The text score of a document, 0 to 100. */
  score(doc: number): number {
    this.#read(doc);
    return this.#sum();
  }

  /** The score and what it is made of: for each word its best expansion, null where it does not match. */
  explain(doc: number): { text: number; closeness: number; expansions: (BestExpansion | null)[] } {
    const text = this.score(doc);
    return {
      text,
      closeness: this.#closeness(),
      expansions: this.#words.map((_, w) => {
        if (this.#typos[w] === NO_TYPOS_YET) return null;
        const term = this.#terms[w]!;
        const location = this.#locations[w]!;
        const { codes, tables } = this.#codes[w]!;
        const table = tables[this.#languageAt(doc, location >>> POSITION_BITS)]!;
        const expansion = term === -1 ? this.#winners[w]! : codes[table[term]!]!.expansion;
        return { expansion, term, points: this.#points[w]!, location };
      }),
    };
  }

  /**
   * Goes over the words of a document once; leaves the best expansion of each word of the query. One flat loop over the
   * entries, without a cursor, on purpose: a broad query comes through here for every word of every document that may
   * stand on the page.
   */
  #read(doc: number): void {
    const { forward, forwardStarts } = this.#segment;
    const { weights, exact, languages } = this.#fields;
    const any = this.#any;
    let tables = this.#tables[0]!;
    const count = tables.length;
    const [points, locations, typos, terms] = [this.#points, this.#locations, this.#typos, this.#terms];
    for (let w = 0; w < count; w++) typos[w] = NO_TYPOS_YET;
    let field = 0;
    let weight = 0;
    let length = 0;
    let position = 0;
    let noTypos = false;
    for (let at = forwardStarts[doc]!, end = forwardStarts[doc + 1]!; at < end; at++) {
      const entry = forward[at]!;
      if (isHead(entry)) {
        field = headField(entry);
        weight = weights[field]!;
        if (languages !== null) tables = this.#tables[languageAt(languages, doc, field)]!;
        noTypos = exact[field] === 1;
        length = this.#lengths[headWords(entry)]!;
        position = headStart(entry) - 1;
        continue;
      }
      if (!tokenStays(entry)) position++;
      const term = tokenTerm(entry);
      if (any[term] === 0 || weight === 0) continue;
      const held = position < MAX_POSITION ? position : MAX_POSITION;
      const location = (field << POSITION_BITS) | held;
      for (let w = 0; w < count; w++) {
        const code = tables[w]![term]!;
        if (code === 0) continue;
        const spent = this.#typosOf[w]![code]!;
        const known = typos[w]!;
        if (spent > known || (noTypos && spent > 0)) continue;
        const found = (weight * this.#formOf[w]![code]! * START[held]! * length * FULL_POINTS + 0.5) | 0;
        if (spent === known && (found < points[w]! || (found === points[w] && location >= locations[w]!))) continue;
        typos[w] = spent;
        points[w] = found;
        locations[w] = location;
        terms[w] = term;
      }
    }
    if (this.#together.length > 0) this.#offerTogether(doc);
  }

  #languageAt(doc: number, field: number): number {
    const { languages } = this.#fields;
    return languages === null ? 0 : languageAt(languages, doc, field);
  }

  #offerTogether(doc: number): void {
    for (const { word, expansion, trust, occurrences } of this.#together) {
      const at = find(occurrences.docs, doc);
      if (at === -1) continue;
      const location = occurrences.locations[at]!;
      const field = location >>> POSITION_BITS;
      const length = this.#lengths[this.#wordsOf(doc, field)]!;
      const value = this.#fields.weights[field]! * trust * START[location & MAX_POSITION]! * length;
      const points = (value * FULL_POINTS + 0.5) | 0;
      const worse =
        points < this.#points[word]! || (points === this.#points[word] && location >= this.#locations[word]!);
      if (this.#typos[word] === 0 && worse) continue;
      this.#typos[word] = 0;
      this.#points[word] = points;
      this.#locations[word] = location;
      this.#terms[word] = -1;
      this.#winners[word] = expansion;
    }
  }

  /** How many words a document has in a field. */
  #wordsOf(doc: number, field: number): number {
    const { forward, forwardStarts } = this.#segment;
    const at = new ForwardCursor(forward, forwardStarts[doc]!, forwardStarts[doc + 1]!);
    while (at.next()) if (at.field === field) return at.fieldWords;
    return 0;
  }

  #sum(): number {
    let text = 0;
    for (let w = 0; w < this.#words.length; w++) {
      if (this.#typos[w] !== NO_TYPOS_YET) text += this.#idfs[w]! * this.#points[w]!;
    }
    return roundScore((100 * this.#closeness() * text) / (this.#total * FULL_POINTS));
  }

  /** The factor for how close the words that match stand to each other. */
  #closeness(): number {
    const pairs = this.#words.length - 1;
    if (pairs === 0) return 1;
    let sum = 0;
    let last = -1;
    for (let w = 0; w <= pairs; w++) {
      if (this.#typos[w] === NO_TYPOS_YET) continue;
      const location = this.#locations[w]!;
      if (last !== -1) {
        sum += pairCloseness(
          last >>> POSITION_BITS,
          last & MAX_POSITION,
          location >>> POSITION_BITS,
          location & MAX_POSITION,
        );
      }
      last = location;
    }
    return closenessFactor(sum / pairs);
  }
}

function find(docs: Uint32Array, doc: number): number {
  let low = 0;
  let high = docs.length - 1;
  while (low <= high) {
    const middle = (low + high) >>> 1;
    if (docs[middle] === doc) return middle;
    if (docs[middle]! < doc) low = middle + 1;
    else high = middle - 1;
  }
  return -1;
}
