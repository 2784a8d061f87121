import { completeTuning, type TuningDocument } from '@yucca/contract';
import { planFor, search, Segment, SegmentBuilder, Tombstones, type Generation } from '@yucca/engine';

const RECORDS = 400;
const RECORDS_A_PIECE = 20;
const WORDS = 400;
const WORDS_IN_A_TEXT = 20;
const QUERIES = 100;
const TUNING: TuningDocument = {
  search: [{ field: 'name', weight: 10 }, { field: 'text' }],
  facets: [
    { name: 'group', field: 'group' },
    { name: 'tags', field: 'tags' },
    { name: 'price', field: 'price' },
  ],
};

const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

/**
 * Searches over a few hundred made-up records, a piece at a time. The compiler makes fast code only of what has run
 * often: without it, the first search over 200,000 records that have just been loaded takes two and a half times as
 * long.
 */
export function* practice(): Generator<void> {
  const tuning = completeTuning(TUNING);
  const segments: Generation['segments'][number][] = [];
  // A load makes two, and what they hold is added up.
  for (let first = 0; first < RECORDS; first += RECORDS / 2) {
    const builder = new SegmentBuilder(planFor([tuning]));
    for (let n = first; n < first + RECORDS / 2; n++) {
      builder.add({ versionId: n + 1, order: n + 1, key: String(n), json: JSON.stringify(recordOf(n)) });
      if (n % RECORDS_A_PIECE === 0) yield;
    }
    const segment = new Segment(builder.finish(shared), { verify: false });
    segments.push({ segment, dead: Tombstones.none(segment.docs, shared) });
    yield;
  }
  const generation = { number: 1, segments };
  for (let n = 0; n < QUERIES; n++) {
    search(generation, tuning, { q: queryOf(n), size: 20, facets: ['*'] });
    yield;
  }
}

const SYLLABLES = ['ba', 'dor', 'el', 'gri', 'ka', 'lin', 'mo', 'ne', 'ros', 'tu'];

/** A word of two to four syllables; the same for the same number. */
function word(n: number): string {
  const parts = [n, n / 10, n / 100].map((one) => SYLLABLES[Math.floor(one) % SYLLABLES.length]!);
  return `${parts.slice(0, 2 + (n % 2)).join('')}${n % 7 === 0 ? 's' : ''}`;
}

/** Some words are in many records and most of them in few, as everywhere. */
const nth = (n: number, i: number): string => word(Math.floor(WORDS / (1 + ((n * 31 + i * 17) % 97))) + (i % 5));

const recordOf = (n: number): object => ({
  name: `${word(n)} ${word(n * 3)}-${n}`,
  text: Array.from({ length: WORDS_IN_A_TEXT }, (_, i) => nth(n, i)).join(' '),
  group: word(n % 60),
  tags: Array.from({ length: n % 5 }, (_, i) => word(n + i)),
  price: (n * 37) % 1_000,
});

/** A name, as far as it has been typed. */
function queryOf(n: number): string {
  const typed = `${word(n % 40)} ${word((n % 40) * 3)}`;
  return typed.slice(0, 1 + (n % typed.length));
}
