import Database from 'better-sqlite3';
import { planFor, search, Segment, SegmentBuilder, Tombstones, type Generation } from '@yucca/engine';
import { tuning } from './collection.ts';
import { Generator, type BenchRecord } from './generator.ts';
import { keystrokes } from './keystrokes.ts';
import { percentiles, quantile, round, timed } from './stats.ts';

export interface EngineResult {
  records: number;
  buildRecordsPerS: number;
  openMs: number;
  indexToText: number;
  keystrokes: number;
  medianMs: number;
  p95Ms: number;
  p99Ms: number;
  scanMedianMs: number;
  likeMedianMs: number;
  timesFasterThanScan: number;
  /** The longest of some hostile queries. */
  hostileMs: number;
}

const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

/** Builds an index of so many records in this process and asks it a log of keystrokes, beside a plain scan and LIKE. */
export function measureEngine(count: number): EngineResult {
  const generator = new Generator();
  const lines = Array.from({ length: count }, (_, i) => JSON.stringify(generator.record(i + 1)));
  let buffer = shared(0);
  const builder = new SegmentBuilder(planFor([tuning]));
  const buildMs = timed(() => {
    lines.forEach((json, i) => builder.add({ rid: i + 1, order: i + 1, key: String(i + 1), json }));
    buffer = builder.finish(shared);
  });
  let segment: Segment | undefined;
  const openMs = timed(() => (segment = new Segment(buffer)));
  const generation: Generation = { number: 1, segments: [{ segment: segment!, dead: Tombstones.none(count, shared) }] };

  // What is measured beside the index is made after it, so that it does not weigh on the building.
  const texts: string[] = [];
  let textBytes = 0;
  const db = new Database(':memory:');
  db.exec('create table records (text text)');
  const insert = db.prepare('insert into records values (?)');
  db.exec('begin');
  for (const line of lines) {
    const { title, body, colour, kind, maker } = JSON.parse(line) as BenchRecord;
    textBytes += JSON.stringify({ title, body, colour, kind, maker }).length;
    texts.push(`${title} ${body}`.toLowerCase());
    insert.run(`${title} ${body}`);
  }
  db.exec('commit');

  const log = keystrokes(generator);
  const ask = (q: string): number => timed(() => search(generation, tuning, { q, facets: ['*'], size: 20 }));
  log.slice(0, 300).forEach(ask);
  const times = percentiles(log.map(ask));

  const sample = log.filter((_, i) => i % Math.ceil(log.length / 60) === 0);
  const scan = (q: string): number => {
    const words = q.toLowerCase().split(' ');
    return timed(() => texts.filter((text) => words.every((word) => text.includes(word))).length);
  };
  const median = (list: number[]): number =>
    quantile(
      list.sort((a, b) => a - b),
      0.5,
    );
  const like = db.prepare("select count(*) from records where text like '%' || ? || '%' and text like '%' || ? || '%'");
  const scanMedianMs = median(sample.map(scan));
  const likeMedianMs = median(sample.map((q) => timed(() => like.get(q.split(' ')[0], q.split(' ')[1] ?? ''))));
  // Others of their kind before, as with the keystrokes: the first pay for compiling. Each is asked once, since what has been
  // asked is remembered.
  hostileQueries(generator, 40).forEach(ask);
  const hostileMs = Math.max(...hostileQueries(generator, 0).map(ask));
  return {
    records: count,
    buildRecordsPerS: Math.round(count / (buildMs / 1000)),
    openMs: round(openMs),
    indexToText: round((buffer.byteLength - builder.recordBytes) / textBytes),
    keystrokes: log.length,
    ...times,
    scanMedianMs: round(scanMedianMs),
    likeMedianMs: round(likeMedianMs),
    timesFasterThanScan: round(scanMedianMs / times.medianMs, 1),
    hostileMs: round(hostileMs, 1),
  };
}

/**
 * Queries made to cost much: as many long misspelt words as are read, phrases of the commonest words, wanted and not wanted,
 * quotes without end, one endless word.
 */
function hostileQueries({ vocabulary }: Generator, from: number): string[] {
  const long = vocabulary.filter((word) => word.length >= 8).slice(from, from + 400);
  const common = (i: number): string => vocabulary[from + i]!;
  const misspelt = (i: number): string => `${long[i]!.slice(0, 3)}q${long[i]!.slice(4)}`;
  const pairs = (before: string): string[] =>
    Array.from({ length: 15 }, (_, i) => `${before}"${common(i)} ${common(i + 1)}"`);
  return [
    Array.from({ length: 40 }, (_, i) => misspelt(i * 7)).join(' '),
    Array.from({ length: 32 }, (_, i) => common(i)).join(' '),
    `"${Array.from({ length: 30 }, (_, i) => common(i % 3)).join(' ')}"`,
    pairs('').join(' '),
    pairs('-').join(' '),
    '"'.repeat(500),
    'a'.repeat(500),
    Array.from({ length: 250 }, () => '-').join(' '),
  ];
}
