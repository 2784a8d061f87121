import { completeTuning, type RecordJson, type SearchRequest, type Tuning } from '@yucca/contract';
import fc from 'fast-check';
import { planFor, Segment, SegmentBuilder, Tombstones, type Generation } from '../src/index.ts';
import type { ReferenceCondition } from './reference/filter.ts';

/** How often a costly property is tried: a few times in the everyday loop, more often when everything is tested. */
export const runs = (count: number): { numRuns: number } => ({
  numRuns: count * Number(process.env.YUCCA_PROPERTY_RUNS ?? 1),
});

// Words close to each other, so that typos, beginnings, swaps, stems, joined and split forms meet often.
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
  'x2',
  'x20',
  'a',
  'snake',
  'plant',
  'snakeplant',
  'wi-fi',
  'wifi',
  'ag-20/b',
  'ag20b',
  'ag',
];
export const word = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom(...WORDS) },
  { weight: 1, arbitrary: fc.stringMatching(/^[a-e]{1,9}$/) },
);
const text = fc.array(word, { maxLength: 6 }).map((list) => list.join(' '));
const CATEGORIES = ['Out', 'Out > Shrub', 'Out > Shrub > Small', 'In', 'In > Fern'];
const DATES = ['2025-12-31', '2026-01-01', '2026-01-15T10:00:00Z', '2026-02-01', 'soon'];

export const recordList = fc
  .array(
    fc.record(
      {
        name: text,
        care: text,
        tags: fc.array(text, { maxLength: 3 }),
        colour: fc.subarray(['red', 'white', 'blue']),
        size: fc.constantFrom('S', 'M', 1, true, ''),
        price: fc.oneof(
          fc.integer({ min: -5, max: 20 }),
          fc.constantFrom<number | string | number[]>(2.5, '7', [1, 9]),
        ),
        sales: fc.integer({ min: 0, max: 50 }),
        category: fc.subarray(CATEGORIES, { maxLength: 2 }),
        added: fc.constantFrom(...DATES),
      },
      { requiredKeys: [] },
    ),
    { minLength: 1, maxLength: 14 },
  )
  .map((list) => list.map((fields, i): RecordJson => ({ id: `r${i}`, ...fields })));

const misspell = (written: string): string => {
  const middle = written.length >> 1;
  return written.slice(0, middle) + written.slice(middle + 1);
};

const queryPart = fc.oneof(
  { weight: 8, arbitrary: fc.oneof(word, word.map(misspell)) },
  { weight: 1, arbitrary: fc.array(word, { minLength: 1, maxLength: 2 }).map((list) => `"${list.join(' ')}"`) },
  { weight: 1, arbitrary: word.map((written) => `-${written}`) },
);

export const queryText = fc
  .tuple(fc.array(queryPart, { maxLength: 3 }), fc.constantFrom('', '', ' '))
  .map(([list, end]) => list.join(' ') + end);

const synonyms = fc.subarray([
  { kind: 'same' as const, words: ['snake plant', 'agave'] },
  { kind: 'oneWay' as const, from: ['fern'], to: ['rose', 'snake plant'] },
  { kind: 'same' as const, words: ['aloe', 'al', 'lavender'] },
]);

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
    require: fc.constantFrom('all' as const, 'all' as const, 'most' as const, 'any' as const),
    prefix: fc.constantFrom('last' as const, 'last' as const, 'all' as const, 'none' as const),
    stems: fc.boolean(),
    stopWords: fc.subarray(['a', 'al', 'rose']),
    synonyms,
    signals: fc.subarray([
      { field: 'sales', shape: 'log' as const, weight: 2 },
      { field: 'price', order: 'asc' as const },
    ]),
    signalShare: fc.constantFrom(0, 0.2, 1),
  })
  .map(({ weights: [name, care], match, require, prefix, stems, stopWords, synonyms: groups, ...rest }) => {
    const { signals, signalShare, ...typos } = rest;
    return completeTuning({
      search: [
        { field: 'name', weight: name },
        { field: 'care', weight: care },
        { field: 'tags', weight: 2 },
      ],
      words: { require, prefix },
      typos,
      stems,
      stopWords,
      synonyms: groups,
      signals,
      signalShare,
      facets: [
        { name: 'colour', field: 'colour', match, size: 1000 },
        { name: 'size', field: 'size', size: 1000 },
        { name: 'price', field: 'price', kind: 'numbers', buckets: [-2, 0, 5, 10] },
        { name: 'spread', field: 'price', kind: 'numbers' },
        { name: 'category', field: 'category', kind: 'tree', size: 1000 },
        { name: 'added', field: 'added', kind: 'dates', by: 'month', size: 1000 },
      ],
      sorts: [
        { name: 'dear', by: [{ field: 'sales', order: 'desc' }] },
        { name: 'named', by: [{ field: 'added' }, { field: 'sales' }] },
      ],
    });
  });

export const selection: fc.Arbitrary<NonNullable<SearchRequest['select']>> = fc.record(
  {
    colour: fc.subarray(['red', 'white', 'green'], { minLength: 1 }),
    size: fc.subarray(['S', '1', 'true'], { minLength: 1 }),
    price: fc.oneof(fc.constant({ min: 0 }), fc.constant({ min: 1, max: 9 }), fc.constant(['7', '9'] as string[])),
    category: fc.subarray(CATEGORIES, { minLength: 1, maxLength: 2 }),
    added: fc.subarray(['2026-01', '2025-12'], { minLength: 1 }),
  },
  { requiredKeys: [] },
);

/** Most of the time nothing is chosen, so that results are left to compare. */
export const someSelection: fc.Arbitrary<NonNullable<SearchRequest['select']>> = fc.oneof(
  { weight: 2, arbitrary: fc.constant({}) },
  { weight: 1, arbitrary: selection },
);

const simple: fc.Arbitrary<ReferenceCondition> = fc.oneof(
  fc.record({
    op: fc.constant('compare' as const),
    field: fc.constantFrom('size', 'price', 'colour', 'sales'),
    sign: fc.constantFrom('=' as const, '<>' as const, '<' as const, '<=' as const, '>' as const, '>=' as const),
    value: fc.constantFrom<string | number | boolean>('S', 'red', "it's", 1, 2.5, -3, true, false),
  }),
  fc.record({
    op: fc.constant('between' as const),
    field: fc.constantFrom('price', 'sales'),
    low: fc.integer({ min: -5, max: 5 }),
    high: fc.integer({ min: 0, max: 20 }),
  }),
  fc.record({
    op: fc.constant('in' as const),
    field: fc.constantFrom('size', 'colour', 'price'),
    values: fc.array(fc.constantFrom<string | number>('S', 'red', 1, 9), { minLength: 1, maxLength: 3 }),
  }),
  fc.record({
    op: fc.constant('like' as const),
    field: fc.constantFrom('name', 'colour', 'category'),
    pattern: fc.constantFrom('r%', '%e', '_ed', '%o%e%', 'Out%', '%'),
  }),
  fc.record({ op: fc.constant('null' as const), field: fc.constantFrom('price', 'size', 'colour', 'name') }),
);

export const condition: fc.Arbitrary<ReferenceCondition> = fc.letrec<{ condition: ReferenceCondition }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 3 },
    simple,
    fc.record({ op: fc.constant('not' as const), part: tie('condition') }),
    fc.record({
      op: fc.constantFrom('and' as const, 'or' as const),
      parts: fc.array(tie('condition'), { minLength: 2, maxLength: 3 }),
    }),
  ),
})).condition;

/** Builds segments of records, split after the given numbers of records. */
export function buffersOf(
  records: RecordJson[],
  tunings: Tuning | readonly Tuning[],
  cuts: number[] = [],
  orderOf: (versionId: number) => number = (versionId) => versionId,
): ArrayBuffer[] {
  const edges = [0, ...cuts.filter((cut) => cut > 0 && cut < records.length).sort((a, b) => a - b), records.length];
  return edges.slice(0, -1).map((from, i) => {
    // Every other segment says where its frequent words stand side by side, as large ones do.
    const builder = new SegmentBuilder(planFor([tunings].flat()), i % 2 === 0 ? { frequentDocs: 1 } : {});
    records.slice(from, edges[i + 1]).forEach((record, n) => {
      const versionId = from + n + 1;
      builder.add({ versionId, order: orderOf(versionId), key: String(record.id), json: JSON.stringify(record) });
    });
    return builder.finish((bytes) => new ArrayBuffer(bytes));
  });
}

/** A generation of segments, each with what was added to it. */
export function opened(buffers: readonly ArrayBuffer[], added: readonly ArrayBuffer[][]): Generation {
  const segments = buffers.map((buffer, i) => {
    const segment = new Segment(buffer, { added: added[i] ?? [] });
    return { segment, dead: Tombstones.none(segment.docs, (bytes) => new ArrayBuffer(bytes)) };
  });
  return { number: 1, segments };
}

/** Builds a generation of records, split into segments after the given numbers of records. */
export const generationOf = (...built: Parameters<typeof buffersOf>): Generation => opened(buffersOf(...built), []);
