import { completeTuning, type RecordJson, type Tuning } from '@yucca/contract';
import fc from 'fast-check';
import { planFor, Segment, SegmentBuilder, Tombstones, type Generation } from '../src/index.ts';

// Words close to each other, so that typos, beginnings and swaps meet often.
const WORDS = [
  'rose',
  'rosa',
  'roses',
  'rosemary',
  'sore',
  'agave',
  'agaves',
  'agvae',
  'aloe',
  'al',
  'fern',
  'ferns',
  'père',
  'Rose',
  "o'neill",
  'lavender',
  'lavandula',
  'lavendre',
  'x2',
  'x20',
  'a',
];
const word = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom(...WORDS) },
  { weight: 1, arbitrary: fc.stringMatching(/^[a-e]{1,9}$/) },
);
const text = fc.array(word, { maxLength: 6 }).map((list) => list.join(' '));

export const recordList = fc
  .array(
    fc.record(
      {
        name: text,
        care: text,
        tags: fc.array(text, { maxLength: 3 }),
        colour: fc.subarray(['red', 'white', 'blue']),
        size: fc.constantFrom('S', 'M', 1, true),
      },
      { requiredKeys: [] },
    ),
    { minLength: 1, maxLength: 14 },
  )
  .map((list) => list.map((fields, i): RecordJson => ({ id: `r${i}`, ...fields })));

export const queryText = fc
  .tuple(fc.array(fc.oneof(word, word.map(misspell)), { maxLength: 3 }), fc.constantFrom('', '', ' '))
  .map(([list, end]) => list.join(' ') + end);

function misspell(text: string): string {
  const middle = text.length >> 1;
  return text.slice(0, middle) + text.slice(middle + 1);
}

export const tuningDocument: fc.Arbitrary<Tuning> = fc
  .record({
    weights: fc.tuple(fc.integer({ min: 1, max: 10 }), fc.integer({ min: 1, max: 10 })),
    enabled: fc.boolean(),
    firstLetter: fc.boolean(),
    oneFrom: fc.constantFrom(2, 4),
    twoFrom: fc.constantFrom(5, 8),
    exactFields: fc.subarray(['name', 'tags']),
    exactWords: fc.subarray(['rose', 'agave']),
    match: fc.constantFrom('any' as const, 'all' as const),
  })
  .map(({ weights: [name, care], match, ...typos }) =>
    completeTuning({
      search: [
        { field: 'name', weight: name },
        { field: 'care', weight: care },
        { field: 'tags', weight: 2 },
      ],
      typos,
      facets: [
        { name: 'colour', field: 'colour', match, size: 1000 },
        { name: 'size', field: 'size', size: 1000 },
      ],
    }),
  );

export const selection = fc.record(
  {
    colour: fc.subarray(['red', 'white', 'green'], { minLength: 1 }),
    size: fc.subarray(['S', '1', 'true'], { minLength: 1 }),
  },
  { requiredKeys: [] },
);

/** Builds a generation of records, split into segments after the given numbers of records. */
export function generationOf(records: RecordJson[], tuning: Tuning, cuts: number[] = []): Generation {
  const edges = [0, ...cuts.filter((cut) => cut > 0 && cut < records.length).sort((a, b) => a - b), records.length];
  const segments = edges.slice(0, -1).map((from, i) => {
    const builder = new SegmentBuilder(planFor([tuning]));
    records.slice(from, edges[i + 1]).forEach((record, n) => {
      builder.add({ rid: from + n + 1, order: from + n + 1, key: String(record.id), json: JSON.stringify(record) });
    });
    const segment = new Segment(builder.finish((bytes) => new ArrayBuffer(bytes)));
    return { segment, dead: Tombstones.none(segment.docs, (bytes) => new ArrayBuffer(bytes)) };
  });
  return { number: 1, segments };
}
