/** How fast records come in: from the request to "can be searched", beside a plain insert of the same rows. */
import Database from 'better-sqlite3';
import type { InspectionAnswer, TuningDocument } from '@yucca/contract';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { RealRecords } from './real-records.ts';
import { call, healthy, loadLines, opened, startServer } from './server.ts';
import { quantile, round } from './stats.ts';

export interface LoadResult {
  records: number;
  /** Records a second with 8 fields and with 30, the proposals taken. */
  narrowPerS: number;
  widePerS: number;
  /** The same rows into a table of SQLite, with nothing made of them, and what of that Yucca reaches. */
  narrowPlainPerS: number;
  widePlainPerS: number;
  narrowShare: number;
  wideShare: number;
  /** Records a second of an index of the narrow ones that is made anew, by one thread, and how many times two make. */
  rebuiltPerS: number;
  timesByTwo: number;
  /** Seconds until a draft of the narrow ones that sorts by their names is answered: one column more. */
  columnS: number;
}

/** What is sent to be looked at before a load. */
const HEAD_BYTES = 500_000;
/** How often an index is made anew, each time by one thread and by two. */
const REBUILDS = 3;

/** Loads so many real-shaped records into a built studio, once narrow and once wide. */
export async function measureLoad(records: number): Promise<LoadResult> {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-bench-'));
  let server = startServer(dataDir);
  const stop = async (): Promise<void> => {
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill();
    await ended;
  };
  try {
    await healthy();
    const narrow = linesOf(records, narrowRecord);
    const narrowPerS = records / (await load('narrow', narrow));
    const narrowPlainPerS = records / plainInsert(narrow);
    const columnS = await draftSeconds('narrow', { sorts: [{ name: 'name', by: [{ field: 'name', order: 'asc' }] }] });
    const wide = linesOf(records, wideRecord);
    const widePerS = records / (await load('wide', wide));
    const widePlainPerS = records / plainInsert(wide);
    // In turn, so that each is measured in the same hours as the other.
    const seconds: [one: number, two: number][] = [];
    for (let round = 0; round < REBUILDS; round++) {
      const pair: number[] = [];
      for (const [builders, field] of [
        [1, 'price'],
        [2, 'rating'],
      ] as const) {
        await stop();
        server = startServer(dataDir, { YUCCA_BUILDERS: String(builders) });
        await healthy();
        // Other words than before, though there are no tags in this field: all of the index is made anew.
        pair.push(await draftSeconds('narrow', { html: [field] }));
      }
      seconds.push([pair[0]!, pair[1]!]);
    }
    const middle = (of: (pair: [number, number]) => number): number =>
      quantile(
        seconds.map(of).sort((a, b) => a - b),
        0.5,
      );
    return {
      records,
      rebuiltPerS: Math.round(records / middle(([one]) => one)),
      timesByTwo: round(middle(([one, two]) => one / two)),
      narrowPerS: Math.round(narrowPerS),
      widePerS: Math.round(widePerS),
      narrowPlainPerS: Math.round(narrowPlainPerS),
      widePlainPerS: Math.round(widePlainPerS),
      narrowShare: round(narrowPerS / narrowPlainPerS),
      wideShare: round(widePerS / widePlainPerS),
      columnS: round(columnS),
    };
  } finally {
    await stop();
    rmSync(dataDir, { recursive: true, force: true });
  }
}

type Row = Record<string, unknown>;

/** Eight fields, as a list of goods has them: numbers and dates as texts, as CSV brings them. */
const narrowRecord = ({ id, name, scope, text, tags, price, rating, added }: Row): Row => ({
  ...{ id, name, scope, tags, added },
  text: String(text).split(' ').slice(0, 12).join(' '),
  price: `$${String(price)}`,
  rating: String(rating),
});

/** Thirty fields: those there are, and what exports of shops bring besides. */
function wideRecord(row: Row, i: number): Row {
  const more: Row = {};
  for (let n = 0; n < 17; n++) more[`extra_${n}`] = n % 3 === 0 ? `word${(i * 7 + n) % 900}` : (i * (n + 3)) % 10_000;
  return { ...row, ...more };
}

function linesOf(count: number, shape: (row: Row, i: number) => Row): string[] {
  const source = new RealRecords();
  return Array.from({ length: count }, (_, i) => JSON.stringify(shape(source.record(i), i)));
}

/** Seconds from the request until all can be searched, with all that is proposed taken. */
async function load(name: string, lines: readonly string[]): Promise<number> {
  // The server has closed what was idle while rows were made; that is heard of only when this thread has time.
  await new Promise((resolve) => setTimeout(resolve, 200));
  let head = '';
  for (const line of lines) {
    if (head.length + line.length > HEAD_BYTES) break;
    head += `${line}\n`;
  }
  const told = (await (await call('POST', '/inspect?name=records.jsonl', head, 'application/x-ndjson')).json()) as InspectionAnswer; // prettier-ignore
  await call('POST', '/collections', JSON.stringify({ name, key: told.key.field ?? 'id' }));
  const rules = told.fields.flatMap(({ path: field, proposals: [first] }) =>
    first && !first.doubtful && field !== told.key.field ? [first.rule] : [],
  );
  await call('PUT', `/collections/${name}/field-rules`, JSON.stringify({ rules }));
  const start = performance.now();
  await loadLines(name, lines.length, (i) => lines[i]!);
  return (performance.now() - start) / 1_000;
}

/** Seconds until a draft can be answered that needs another index; it is thrown away again. */
async function draftSeconds(name: string, draft: TuningDocument): Promise<number> {
  await opened();
  const start = performance.now();
  await (await call('PATCH', `/collections/${name}/tuning/draft?wait=true`, JSON.stringify(draft))).arrayBuffer();
  const seconds = (performance.now() - start) / 1_000;
  await (await call('DELETE', `/collections/${name}/tuning/draft`, null)).arrayBuffer();
  return seconds;
}

/** Seconds that a table with a key takes, in transactions of a thousand rows that are flushed to the disk. */
function plainInsert(lines: readonly string[]): number {
  const folder = mkdtempSync(path.join(tmpdir(), 'yucca-plain-'));
  const db = new Database(path.join(folder, 'plain.sqlite'));
  try {
    db.pragma('journal_mode = WAL');
    db.pragma('synchronous = FULL');
    db.exec('create table records (key text primary key, json text not null)');
    const insert = db.prepare('insert or replace into records values (?, ?)');
    const start = performance.now();
    for (let at = 0; at < lines.length; at += 1_000)
      db.transaction(() => {
        for (const line of lines.slice(at, at + 1_000)) insert.run((JSON.parse(line) as { id: string }).id, line);
      })();
    return (performance.now() - start) / 1_000;
  } finally {
    db.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
