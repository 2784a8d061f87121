import type { RecordJson } from '@yucca/contract';

export interface KeyGuess {
  /** The field that identifies a record; null when no field can. */
  field: string | null;
  /** Why, as a sentence for a person. */
  reason: string;
}

/** What was counted of a field that may be a key. */
export interface KeyFacts {
  /** Records looked at. */
  records: number;
  /** Of them, those without a value that can be a key. */
  missing: number;
  /** Of the others, those whose value an earlier one has: each replaces that one. */
  repeated: number;
}

/** Names people give to identifiers, the likeliest first; what names a record comes last, for it may be changed. */
const NAMES = [
  /^_?id$/i,
  /^(uuid|guid|key)$/i,
  /^(sku|isbn|ean|gtin|asin|upc|mpn|slug|code|number|no|handle|login|username|symbol|ticker|hexcode|codepoint|unicode)$/i,
  /^(iata|icao|fips|iso[_ -]?\d*[_ -]?a?[23]?|cca[23]|ccn3|alpha[_ -]?[23])([_ -]?code)?$/i,
  /([_ -]|^)id$|[a-z](Id|ID)$/,
  /(code|key|number|slug|hexcode|isbn|sku|uuid)$/i,
  /^(url|uri|link|permalink|path|file_?name|email)$/i,
  /^(full[_ ]?)?(name|title)$/i,
];

/** Of a key: longer texts identify nothing. */
const LONGEST = 128;
/** Values remembered of all fields together. Records that come after them are not looked at any more. */
const MOST_VALUES = 4_000_000;

/** Records after which it is looked how many values that are. */
const LOOK_EVERY = 10_000;

/** The values of one field, as a key would have them. */
class Candidate {
  readonly field: string;
  readonly #seen = new Set<string>();
  missing = 0;
  repeated = 0;
  /** Why it is none, where that is known. */
  why: string | null = null;

  constructor(field: string) {
    this.field = field;
  }

  add(value: unknown): void {
    if (value === undefined || value === null || value === '') return this.#leaveOut('some records lack it');
    if (typeof value !== 'string' && typeof value !== 'number')
      return this.#leaveOut('it holds more than a text or a number');
    const text = String(value);
    if (text.length > LONGEST) return this.#leaveOut('its values are too long');
    if (typeof value === 'number' && !Number.isInteger(value)) return this.#leaveOut('its numbers are no whole ones');
    if (this.#seen.has(text)) {
      this.repeated++;
      this.why ??= `${JSON.stringify(value)} stands in two records`;
    } else this.#seen.add(text);
  }

  #leaveOut(why: string): void {
    this.missing++;
    this.why ??= why;
  }

  /** Values that are remembered. */
  get size(): number {
    return this.#seen.size;
  }

  get fits(): boolean {
    return this.why === null;
  }
}

/**
 * Finds the field that identifies records, while they go by: it must be in every record and never repeat; its name, and
 * then its order among the fields, decide between several. A field whose name says nothing of the kind is never taken.
 */
export class KeyFinder {
  #candidates: Candidate[] | null = null;
  #records = 0;
  #isFull = false;
  readonly #fields: readonly string[] | null;

  readonly #most: number;

  /** `fields`: those that are looked at; left out, all of the first record. `most`: values that may be remembered. */
  constructor(fields: readonly string[] | null = null, most = MOST_VALUES) {
    this.#fields = fields;
    this.#most = most;
  }

  add(record: RecordJson): void {
    if (this.#isFull) return;
    this.#candidates ??= (this.#fields ?? Object.keys(record)).map((field) => new Candidate(field));
    this.#records++;
    for (const candidate of this.#candidates)
      candidate.add(Object.hasOwn(record, candidate.field) ? record[candidate.field] : undefined);
    if (this.#records % LOOK_EVERY === 0)
      this.#isFull = this.#candidates.reduce((sum, { size }) => sum + size, 0) >= this.#most;
  }

  /** What was counted of each field. */
  facts(): Map<string, KeyFacts> {
    return new Map(
      (this.#candidates ?? []).map(({ field, missing, repeated }) => [
        field,
        { records: this.#records, missing, repeated },
      ]),
    );
  }

  /** `isWhole`: there are no more records than were added. */
  guess(isWhole: boolean): KeyGuess {
    const all = this.#candidates;
    if (all === null) return { field: null, reason: 'There are no records to look at.' };
    const counted = this.#records === 1 ? 'one record' : `${this.#records.toLocaleString('en')} records`;
    const rows = `${isWhole && !this.#isFull ? '' : 'first '}${counted}`;
    const usable = all.filter(({ fits }) => fits);
    const [best] = usable
      .map(({ field }, index) => ({ field, rank: likeliness(field), index }))
      .sort((one, other) => one.rank - other.rank || one.index - other.index);
    const failed = all.find(({ field, fits }) => likeliness(field) <= 1 && !fits);
    if (best !== undefined && best.rank < NAMES.length) {
      const also = failed === undefined ? '' : ` (“${failed.field}” is not: ${failed.why!})`;
      return { field: best.field, reason: `“${best.field}” is in every one of the ${rows} and never repeats${also}.` };
    }
    if (failed !== undefined)
      return { field: null, reason: `“${failed.field}” cannot tell records apart: ${failed.why!}.` };
    return {
      field: null,
      reason:
        best === undefined
          ? `No field is in every one of the ${rows} without repeating.`
          : `No field is called a key; “${best.field}” does not repeat in the ${rows}.`,
    };
  }
}

/** Whether a field's name says that it may be a key. */
export const isCalledKey = (field: string): boolean => likeliness(field) < NAMES.length;

function likeliness(field: string): number {
  const rank = NAMES.findIndex((pattern) => pattern.test(field));
  return rank === -1 ? NAMES.length : rank;
}

/** Guesses which field identifies a record from the first records, or from all of them. */
export function guessKey(records: readonly RecordJson[], isWhole = false): KeyGuess {
  const finder = new KeyFinder();
  for (const record of records) finder.add(record);
  return finder.guess(isWhole);
}
