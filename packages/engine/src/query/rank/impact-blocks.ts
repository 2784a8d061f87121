import { MAX_POSITION, POSITION_BITS } from '../../segment/forward.ts';
import { GrowingArray } from '../../bytes/growing-array.ts';
import { bestOfClass, CLASSES, POSITION_STEPS, positionStep } from '../../segment/impact.ts';
import { TERM_LENGTHS, type Segment } from '../../segment/segment.ts';
import type { FieldWeights } from '../match/field-weights.ts';
import type { Occurrences } from '../match/phrase.ts';
import type { Expansion } from '../match/expansions.ts';
import { formFactor, lengthFactors, startFactor, trustIn } from '../../score/text-score.ts';
import { firstNotBelow } from '../../sets/sorted.ts';
import { languageOfField } from '../match/text-languages.ts';
import type { WordMatch } from '../match/word-match.ts';

/** A range of documents none of which can have more points for a word than its block. */
export interface PostingsRange {
  docs: Uint32Array;
  from: number;
  to: number;
}

/** Words of the dictionary that read a word of the query equally well. */
interface LengthBucket {
  /** The most points any document can have through it, 0 to 1. */
  bound: number;
  expansion: Expansion;
  form: number;
  /** Letters of the dictionary words; 0 = all of the expansion. */
  length: number;
  /** The words of an expansion by their lengths, shared by its buckets; null where one bucket has them all. */
  words: WordsByLength | null;
}

/** Postings ranges of about the same bound: what is gone through together. */
interface ImpactBlock {
  /** The highest of their bounds. */
  bound: number;
  ranges: PostingsRange[];
}

/** Bounds within one step make one block: fewer blocks, hardly more documents. */
const STEPS = 512;

/** How many words of each length an expansion has; made once, since a misspelt word has many expansions. */
const perLength = new Uint32Array(TERM_LENGTHS);

/**
 * The words of a range of the dictionary by their lengths, each length in its own order. A beginning has thousands of
 * words and a dozen lengths: going through all of them for each length that is opened would cost a dozen times as much.
 */
class WordsByLength {
  readonly #starts: Uint32Array;
  readonly #lengths: Uint8Array;
  readonly #from: number;
  readonly #to: number;
  #terms: Uint32Array | null = null;

  constructor(lengths: Uint8Array, from: number, to: number, counts: Uint32Array) {
    this.#lengths = lengths;
    this.#from = from;
    this.#to = to;
    this.#starts = new Uint32Array(TERM_LENGTHS + 1);
    for (let length = 0; length < TERM_LENGTHS; length++)
      this.#starts[length + 1] = this.#starts[length]! + counts[length]!;
  }

  of(length: number): Uint32Array {
    this.#terms ??= this.#sorted();
    return this.#terms.subarray(this.#starts[length]!, this.#starts[length + 1]!);
  }

  #sorted(): Uint32Array {
    const terms = new Uint32Array(this.#to - this.#from);
    const next = this.#starts.slice();
    for (let term = this.#from; term < this.#to; term++) terms[next[this.#lengths[term]!]!++] = term;
    return terms;
  }
}

/** A field and a step of positions as one number, and the best location of such a step. */
const stepOfLocation = (location: number): number =>
  (location >>> POSITION_BITS) * POSITION_STEPS.length + positionStep(location & MAX_POSITION);

const bestOfStep = (step: number): { field: number; position: number } => ({
  field: Math.floor(step / POSITION_STEPS.length),
  position: POSITION_STEPS[step % POSITION_STEPS.length]!,
});

/**
 * The documents of one word of a query, best first, block by block. Dictionary words are looked at bucket by bucket,
 * the likeliest first, so that of the ten thousand words behind a first letter only the few that can win are ever
 * touched.
 */
export class ImpactBlocks {
  readonly #segment: Segment;
  readonly #fields: FieldWeights;
  readonly #buckets: LengthBucket[];
  #bucket = 0;
  readonly #blocks = new Map<number, ImpactBlock>();
  /** Steps of the blocks that are known, descending. */
  #steps: number[] = [];
  /** What a whole word counts at best, by field and by impact class. */
  readonly #shortest: Float64Array;
  readonly #ofClass: Float64Array;

  constructor(segment: Segment, { expansions }: WordMatch, fields: FieldWeights, queryWords: number) {
    this.#segment = segment;
    this.#fields = fields;
    const lengths = lengthFactors(queryWords);
    this.#shortest = Float64Array.from(segment.meta.shortest, (words) => startFactor(0) * lengths[words]!);
    this.#ofClass = Float64Array.from({ length: CLASSES }, (_, impact) => {
      const { position, words } = bestOfClass(impact);
      return startFactor(position) * lengths[words]!;
    });
    const most = fields.weights.reduce((best, weight, field) => Math.max(best, weight * this.#shortest[field]!), 0);
    this.#buckets = expansions
      .flatMap((expansion) => this.#bucketsOf(expansion, most))
      .sort((a, b) => b.bound - a.bound);
    this.#expand();
  }

  /** The most points a document that has not been taken yet can have; 0 at the end. */
  get bound(): number {
    return this.#steps.length === 0 ? 0 : this.#blocks.get(this.#steps[0]!)!.bound;
  }

  /** Takes the documents of the best block that is left; empty at the end. */
  take(): PostingsRange[] {
    const step = this.#steps.shift();
    if (step === undefined) return [];
    const { ranges } = this.#blocks.get(step)!;
    this.#blocks.delete(step);
    this.#expand();
    return ranges;
  }

  #bucketsOf(expansion: Expansion, most: number): LengthBucket[] {
    const trust = trustIn(expansion.how, expansion.typos);
    if (expansion.whole) return [{ bound: most * trust, expansion, form: trust, length: 0, words: null }];
    const { termLengths } = this.#segment;
    const { from, to } = expansion;
    perLength.fill(0);
    for (let term = from; term < to; term++) perLength[termLengths[term]!]!++;
    const words = new WordsByLength(termLengths, from, to, perLength);
    const buckets: LengthBucket[] = [];
    for (let length = 0; length < TERM_LENGTHS; length++) {
      if (perLength[length] === 0) continue;
      const form = formFactor(trust, false, expansion.letters, length);
      buckets.push({ bound: most * form, expansion, form, length, words });
    }
    return buckets;
  }

  /** Opens buckets until none left could hold anything better than the best block known. */
  #expand(): void {
    while (this.#bucket < this.#buckets.length) {
      const bucket = this.#buckets[this.#bucket]!;
      if (this.#steps.length > 0 && Math.ceil(bucket.bound * STEPS) < this.#steps[0]!) return;
      this.#bucket++;
      this.#open(bucket);
    }
  }

  #open({ expansion, form, length, words }: LengthBucket): void {
    const { together, from, to, typos, language } = expansion;
    const languages = language === undefined ? null : this.#fields.languages;
    const { groupStarts, groupFields, groupPosts, postDocs, partedGroups, classStarts } = this.#segment;
    const before = this.#blocks.size;
    if (together !== null) {
      this.#addTogether(together, form);
    } else {
      let parted = firstNotBelow(partedGroups, groupStarts[from]!);
      const terms = words?.of(length) ?? null;
      const count = terms === null ? to - from : terms.length;
      for (let i = 0; i < count; i++) {
        const term = terms === null ? from + i : terms[i]!;
        for (let group = groupStarts[term]!; group < groupStarts[term + 1]!; group++) {
          const field = groupFields[group]!;
          const weight = typos > 0 && this.#fields.exact[field] === 1 ? 0 : this.#fields.weights[field]!;
          // What a record's own language keeps out is found out when it is scored.
          if (weight === 0 || (languages !== null && (languageOfField(languages, field) ?? language) !== language))
            continue;
          const end = groupPosts[group + 1]!;
          while (partedGroups[parted]! < group) parted++;
          if (partedGroups[parted] !== group) {
            this.#add(weight * form * this.#shortest[field]!, { docs: postDocs, from: groupPosts[group]!, to: end });
            continue;
          }
          for (let impact = 0; impact < CLASSES; impact++) {
            const at = parted * CLASSES + impact;
            const stop = impact + 1 < CLASSES ? classStarts[at + 1]! : end;
            const bound = weight * form * Math.min(this.#ofClass[impact]!, this.#shortest[field]!);
            this.#add(bound, { docs: postDocs, from: classStarts[at]!, to: stop });
          }
        }
      }
    }
    if (this.#blocks.size !== before) this.#steps = [...this.#blocks.keys()].sort((a, b) => b - a);
  }

  /** Words that stand together have no classes in the index; their locations are known, and tell as much. */
  #addTogether({ docs, locations }: Occurrences, form: number): void {
    const byStep = new Map<number, GrowingArray<Uint32Array>>();
    for (let i = 0; i < docs.length; i++) {
      const step = stepOfLocation(locations[i]!);
      let list = byStep.get(step);
      if (list === undefined) byStep.set(step, (list = new GrowingArray(Uint32Array)));
      list.push(docs[i]!);
    }
    for (const [step, list] of byStep) {
      const { field, position } = bestOfStep(step);
      const bound = this.#fields.weights[field]! * form * startFactor(position) * this.#shortest[field]!;
      this.#add(bound, { docs: list.view(), from: 0, to: list.length });
    }
  }

  #add(bound: number, range: PostingsRange): void {
    if (range.from === range.to) return;
    const step = Math.ceil(bound * STEPS);
    const block = this.#blocks.get(step);
    if (block === undefined) {
      this.#blocks.set(step, { bound, ranges: [range] });
    } else {
      block.ranges.push(range);
      if (bound > block.bound) block.bound = bound;
    }
  }
}
