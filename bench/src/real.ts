import { completeTuning, type Tuning } from '@yucca/contract';
import {
  buildColumnSegment,
  missingColumns,
  planFor,
  search,
  Segment,
  SegmentBuilder,
  suggest,
  Tombstones,
  type Generation,
} from '@yucca/engine';
import { RealRecords, realTuning, SpacelessRecords } from './real-records.ts';
import { percentiles, quantile, round, timed } from './stats.ts';

/** What is measured with real-shaped records; times in milliseconds. */
export interface RealResult {
  records: number;
  buildRecordsPerS: number;
  indexToText: number;
  /** A keystroke with three facets, marks and its exact total. */
  medianMs: number;
  p95Ms: number;
  p99Ms: number;
  timesFasterThanScan: number;
  /** How many times a keystroke without facets each of these takes. */
  withScopes: number;
  withLetters: number;
  withRatings: number;
  suggestP95Ms: number;
  /** How many times a keystroke takes when what was written last stands in a segment of its own, and in two halves. */
  afterAWrite: number;
  inHalves: number;
  inHalvesP95: number;
  /** The slowest kind of a choice, a range, a named sort, a circle; the median of each. */
  chosenMs: number;
  /** The slowest kind of `=`, `<>`, IN and LIKE on keys and names; the median of each. */
  byKeyMs: number;
  /** The slowest kind of one column that is added: a sort by names, numbers as values, positions. */
  addColumnMs: number;
}

const QUERIES = 120;
/** How often each of the rarer questions is asked. */
const TIMES = 15;
/** Records that were written after the index was made. */
const WRITTEN_LAST = 500;
const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

function generationOf(buffers: readonly SharedArrayBuffer[]): Generation {
  const segments = buffers.map((buffer) => new Segment(buffer));
  return { number: 1, segments: segments.map((segment) => ({ segment, dead: Tombstones.none(segment.docs, shared) })) };
}

/** Builds an index of so many real-shaped records in this process and asks it what visitors ask. */
export const measureReal = (count: number): RealResult => measureSet(new RealRecords(), count);

/** The same with names and texts in a script without spaces. */
export const measureSpaceless = (count: number): RealResult => measureSet(new SpacelessRecords(), count);

function measureSet(source: RealRecords, count: number): RealResult {
  const records = Array.from({ length: count }, (_, i) => source.record(i));
  const lines = records.map((record) => JSON.stringify(record));
  const build = (from: number, to: number): { buffer: SharedArrayBuffer; recordBytes: number } => {
    const builder = new SegmentBuilder(planFor([realTuning]));
    for (let i = from; i < to; i++)
      builder.add({ versionId: i + 1, order: i + 1, key: String(records[i]!.id), json: lines[i]! });
    return { buffer: builder.finish(shared), recordBytes: builder.recordBytes };
  };
  let built = { buffer: shared(0), recordBytes: 0 };
  const buildMs = timed(() => (built = build(0, count)));
  const { buffer, recordBytes } = built;
  const generation = generationOf([buffer]);
  const log = source.keystrokes(QUERIES);
  const ask = (more: object): number => timed(() => search(generation, realTuning, { size: 20, ...more }));
  for (const q of log.slice(0, 400)) ask({ q, facets: ['*'] });
  const times = percentiles(log.map((q) => ask({ q, facets: ['*'] })));
  const facetSets = [[], ['scope'], ['letter'], ['rating']];
  // In turn, each as often the first to ask for a word as any other: what one asks the next one finds remembered.
  const bySet = facetSets.map((): number[] => []);
  log.forEach((q, i) => {
    for (let n = 0; n < facetSets.length; n++) {
      const set = (i + n) % facetSets.length;
      bySet[set]!.push(ask({ q, facets: facetSets[set] }));
    }
  });
  const [plain, ...withOne] = bySet.map((ms) => percentiles(ms).medianMs) as [number, number, number, number];

  const texts = records.map(({ name, text, tags }) =>
    `${name as string} ${text as string} ${String(tags)}`.toLowerCase(),
  );
  const scan = (q: string): number => {
    const words = q.toLowerCase().split(' ');
    return timed(() => texts.filter((text) => words.every((word) => text.includes(word))).length);
  };
  const scans = log.filter((_, i) => i % Math.ceil(log.length / 40) === 0).map(scan);
  const half = Math.floor(count / 2);
  const parted = [
    generationOf([build(0, count - WRITTEN_LAST).buffer, build(count - WRITTEN_LAST, count).buffer]),
    generationOf([build(0, half).buffer, build(half, count).buffer]),
  ].map((parts) => {
    const askParts = (q: string): number => timed(() => search(parts, realTuning, { q, size: 20, facets: ['*'] }));
    for (const q of log.slice(0, 400)) askParts(q);
    // In turn, so that both are asked in the same hour.
    const both = log.map((q) => [ask({ q, facets: ['*'] }), askParts(q)] as const);
    const [whole, apart] = [percentiles(both.map(([one]) => one)), percentiles(both.map(([, other]) => other))];
    return { median: round(apart.medianMs / whole.medianMs), p95: round(apart.p95Ms / whole.p95Ms) };
  });

  const typed = log.map((q) => timed(() => suggest(generation, realTuning, q, 8)));

  // Each time with other values: what was asked once is remembered.
  const quoted = (value: unknown): string => `'${String(value).replaceAll("'", "''")}'`;
  const some = (n: number) => records[Math.floor(((n + 0.5) * count) / (TIMES * 50))]!;
  const slowest = (kinds: ((n: number) => object)[]): number =>
    Math.max(...kinds.map((kind) => percentiles(Array.from({ length: TIMES }, (_, n) => ask(kind(n)))).medianMs));
  const byKeyMs = slowest(
    [
      (n: number) => `id = ${quoted(some(n).id)}`,
      (n: number) => `id <> ${quoted(some(n).id)}`,
      (n: number) => `name = ${quoted(some(n).name)}`,
      (n: number) => `id IN (${Array.from({ length: 40 }, (_, i) => quoted(some(n + i * TIMES).id)).join(', ')})`,
      (n: number) => `id LIKE '@scope${n + 7}/%'`,
    ].map((filter) => (n) => ({ filter: filter(n), size: 10 })),
  );
  const typedFew = log.filter((q) => q.length > 3);
  const chosenMs = slowest(
    [
      (n: number) => ({ select: { scope: [`scope${n}`, `scope${900 + n}`] } }),
      (n: number) => ({ select: { rating: { min: 40 - n, max: 60 } } }),
      () => ({ sort: 'new' }),
      (n: number) => ({ near: { lat: 48 + n, lng: 9, withinM: 400_000 } }),
    ].map((more) => (n) => ({ q: typedFew[n * 7], facets: ['*'], ...more(n) })),
  );
  // Each named by one tuning alone, so that the segment has none of it.
  const bare = planFor([completeTuning({ search: [{ field: 'name' }] })]);
  const kinds: Partial<Tuning>[] = [
    { sorts: [{ name: 'name', label: 'Name', by: [{ field: 'name', order: 'asc' }] }] },
    { group: { field: 'price', keep: 1 } },
    { geo: 'at' },
  ];
  const addColumnMs = Math.max(
    ...kinds.map((kind) => {
      const more = missingColumns(bare, planFor([{ ...completeTuning({ search: [{ field: 'name' }] }), ...kind }]))!;
      return timed(() => buildColumnSegment(generation.segments[0]!.segment, more, shared));
    }),
  );
  return {
    records: count,
    buildRecordsPerS: Math.round(count / (buildMs / 1000)),
    indexToText: round((buffer.byteLength - recordBytes) / texts.reduce((sum, { length }) => sum + length, 0)),
    ...times,
    timesFasterThanScan: round(
      quantile(
        scans.sort((a, b) => a - b),
        0.5,
      ) / times.medianMs,
      1,
    ),
    withScopes: round(withOne[0]! / plain),
    withLetters: round(withOne[1]! / plain),
    withRatings: round(withOne[2]! / plain),
    suggestP95Ms: percentiles(typed).p95Ms,
    afterAWrite: parted[0]!.median,
    inHalves: parted[1]!.median,
    inHalvesP95: parted[1]!.p95,
    chosenMs,
    byKeyMs,
    addColumnMs: round(addColumnMs),
  };
}
