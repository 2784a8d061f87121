import Database from 'better-sqlite3';
import { planFor, search, Segment, SegmentBuilder, Tombstones, type Generation } from '@yucca/engine';
import { tuning } from './collection.ts';
import { Generator, type BenchRecord } from './generator.ts';
import { measureHostile, type HostileResult } from './hostile.ts';
import { keystrokes } from './keystrokes.ts';
import { percentiles, quantile, round, timed } from './stats.ts';

export interface EngineResult extends HostileResult {
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
}

const shared = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);

/** Builds an index of so many records in this process and asks it a log of keystrokes, beside a plain scan and LIKE. */
export async function measureEngine(count: number): Promise<EngineResult> {
  const generator = new Generator();
  const lines = Array.from({ length: count }, (_, i) => JSON.stringify(generator.record(i + 1)));
  let buffer = shared(0);
  const builder = new SegmentBuilder(planFor([tuning]));
  const buildMs = timed(() => {
    lines.forEach((json, i) => builder.add({ versionId: i + 1, order: i + 1, key: String(i + 1), json }));
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
  const hostile = await measureHostile(buffer);
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
    ...hostile,
  };
}
