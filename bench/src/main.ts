/**
 * Measures the engine in one process: building, opening, and a log of keystrokes, beside a plain scan of the same text and
 * SQLite's LIKE in the same run. `npm run bench` for 10 k and 100 k records, `npm run bench -- 1000000` for other sizes.
 */
import { writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import path from 'node:path';
import Database from 'better-sqlite3';
import { completeTuning } from '@yucca/contract';
import { planFor, search, Segment, SegmentBuilder, Tombstones, type Generation } from '@yucca/engine';
import { Generator } from './generator.ts';
import { keystrokes } from './keystrokes.ts';

const tuning = completeTuning({
  search: [
    { field: 'title', weight: 5 },
    { field: 'body', weight: 1 },
  ],
  facets: [
    { name: 'colour', field: 'colour' },
    { name: 'kind', field: 'kind' },
    { name: 'maker', field: 'maker' },
  ],
});

interface Result {
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

const round = (value: number, digits = 2): number => Number(value.toFixed(digits));

function quantile(sorted: readonly number[], share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;
}

function timed(run: () => unknown): number {
  const start = performance.now();
  run();
  return performance.now() - start;
}

const medianOf = (times: number[]): number =>
  quantile(
    times.sort((a, b) => a - b),
    0.5,
  );

function measure(count: number): Result {
  const generator = new Generator();
  const texts: string[] = [];
  let textBytes = 0;
  const builder = new SegmentBuilder(planFor([tuning]));
  let buildMs = 0;
  const db = new Database(':memory:');
  db.exec('create table records (text text)');
  const insert = db.prepare('insert into records values (?)');
  db.exec('begin');
  for (let id = 1; id <= count; id++) {
    const record = generator.record(id);
    const json = JSON.stringify(record);
    const { title, body, colour, kind, maker } = record;
    textBytes += JSON.stringify({ title, body, colour, kind, maker }).length;
    texts.push(`${title} ${body}`.toLowerCase());
    insert.run(`${title} ${body}`);
    buildMs += timed(() => builder.add({ rid: id, order: id, key: String(id), json }));
  }
  db.exec('commit');
  let buffer = new SharedArrayBuffer(0);
  buildMs += timed(() => (buffer = builder.finish((bytes) => new SharedArrayBuffer(bytes))));
  let segment: Segment | undefined;
  const openMs = timed(() => (segment = new Segment(buffer)));
  const generation: Generation = {
    number: 1,
    segments: [{ segment: segment!, dead: Tombstones.none(count, (bytes) => new SharedArrayBuffer(bytes)) }],
  };

  const log = keystrokes(generator);
  const ask = (q: string): number => timed(() => search(generation, tuning, { q, facets: ['*'], size: 20 }));
  log.slice(0, 300).forEach(ask);
  const times = log.map(ask).sort((a, b) => a - b);

  const sample = log.filter((_, i) => i % Math.ceil(log.length / 60) === 0);
  const scan = (q: string): number => {
    const words = q.toLowerCase().split(' ');
    return timed(() => texts.filter((text) => words.every((word) => text.includes(word))).length);
  };
  const like = db.prepare("select count(*) from records where text like '%' || ? || '%' and text like '%' || ? || '%'");
  const scanMedianMs = medianOf(sample.map(scan));
  const likeMedianMs = medianOf(sample.map((q) => timed(() => like.get(q.split(' ')[0], q.split(' ')[1] ?? ''))));
  const recordBytes = builder.recordBytes;
  const medianMs = quantile(times, 0.5);
  return {
    records: count,
    buildRecordsPerS: Math.round(count / (buildMs / 1000)),
    openMs: round(openMs),
    indexToText: round((buffer.byteLength - recordBytes) / textBytes),
    keystrokes: log.length,
    medianMs: round(medianMs),
    p95Ms: round(quantile(times, 0.95)),
    p99Ms: round(quantile(times, 0.99)),
    scanMedianMs: round(scanMedianMs),
    likeMedianMs: round(likeMedianMs),
    timesFasterThanScan: round(scanMedianMs / medianMs, 1),
  };
}

const sizes = process.argv.slice(2).map(Number);
const results = (sizes.length > 0 ? sizes : [10_000, 100_000]).map((size) => {
  const result = measure(size);
  // eslint-disable-next-line no-console -- the table is what the command is for
  console.table([result]);
  return result;
});
const machine = {
  cpu: cpus()[0]?.model,
  cores: cpus().length,
  memoryGb: Math.round(totalmem() / 1e9),
  node: process.version,
};
if (sizes.length === 0) {
  const file = path.join(process.cwd(), 'bench/results.json');
  writeFileSync(
    file,
    `${JSON.stringify({ measured: new Date().toISOString().slice(0, 10), machine, results }, null, 2)}\n`,
  );
}
