/** What insights cost: a search that is noted, the counting, and a quarter of a year at a million searches a day. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { migrateDb, openDb, type Db } from '../../apps/studio/src/server/db/open.ts';
import { readInsights } from '../../apps/studio/src/server/insights/read-insights.ts';
import { readList } from '../../apps/studio/src/server/insights/read-list.ts';
import { LISTS } from '../../apps/studio/src/server/insights/lists.ts';
import { SearchCounter } from '../../apps/studio/src/server/insights/search-counter.ts';
import { SearchLog, type AnsweredSearch } from '../../apps/studio/src/server/insights/search-log.ts';
import type { InsightListName } from '@yucca/contract';
import { quantile, round, timed } from './stats.ts';

export interface InsightsResult {
  /** Searches a day that the sums stand for. */
  records: number;
  /** What noting one search costs it, in milliseconds. */
  noteMs: number;
  /** Searches that are written, settled and counted a second, by the thread that writes. */
  countedPerS: number;
  /** 90 days: sums and curves of the screen, and the slowest of its lists; milliseconds. */
  totalsMs: number;
  slowestListMs: number;
  slowestList: string;
  allListsMs: number;
}

const DAYS = 90;
const TODAY = 20_600;
const TAGS = ['', 'page:nursery', 'width:phone', 'width:desktop'];
/** What is left of a day's queries when it is over (trim-insights). */
const QUERIES_A_DAY = 800;
const RECORDS_A_DAY = 3_000;

/** Measures with sums of so many searches a day. */
export function measureInsights(searchesADay: number): InsightsResult {
  const folder = mkdtempSync(path.join(tmpdir(), 'yucca-insights-'));
  const db = openDb(folder);
  try {
    migrateDb(db, path.join(process.cwd(), 'apps/studio/drizzle'));
    const noteMs = noting();
    const countedPerS = counting(db);
    fill(db, searchesADay);
    const scope = { collectionId: 1, tag: '', range: { from: TODAY - DAYS + 1, to: TODAY } };
    const totalsMs = middleOf(5, () => readInsights(db, scope, 'day'));
    const lists = (Object.keys(LISTS) as InsightListName[]).map((list) => {
      const order = { list, sort: null, q: '', page: 1, size: 50, least: 1 };
      return { list, ms: middleOf(3, () => readList(db, scope, order)) };
    });
    const slowest = lists.reduce((a, b) => (b.ms > a.ms ? b : a));
    return {
      records: searchesADay,
      noteMs: round(noteMs, 5),
      countedPerS: Math.round(countedPerS),
      totalsMs: round(totalsMs),
      slowestListMs: round(slowest.ms),
      slowestList: slowest.list,
      allListsMs: round(lists.reduce((sum, { ms }) => sum + ms, 0)),
    };
  } finally {
    db.$client.close();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The middle of some times, in milliseconds. */
function middleOf(times: number, work: () => unknown): number {
  const all = Array.from({ length: times }, () => timed(work)).sort((a, b) => a - b);
  return quantile(all, 0.5);
}

const search = (i: number): AnsweredSearch => ({
  at: TODAY * 86_400_000 + i * 40,
  collectionId: 1,
  queryId: `answer-${i}`,
  session: `visit ${Math.floor(i / 6) % 2_000}`,
  viewer: null,
  q: `query ${Math.floor(i / 3) % 5_000}`,
  select: null,
  total: i % 9,
  ms: 1 + (i % 40) / 10,
  tags: ['page:nursery', i % 3 === 0 ? 'width:phone' : 'width:desktop'],
  chosen: false,
});

function noting(): number {
  const searches = Array.from({ length: 200_000 }, (_, i) => search(i));
  const log = new SearchLog(1_000_000);
  const start = performance.now();
  for (const one of searches) log.note(one);
  return (performance.now() - start) / searches.length;
}

/** In batches of a second at 500 searches a second. */
function counting(db: Db): number {
  const counter = new SearchCounter(db, 'secret');
  const all = 10_000;
  const start = performance.now();
  for (let at = 0; at < all; at += 500) {
    const searches = Array.from({ length: 500 }, (_, i) => search(at + i));
    counter.take({ searches, weight: 1 }, 0, searches.at(-1)!.at);
  }
  return all / ((performance.now() - start) / 1_000);
}

/** Sums as a quarter of a year leaves them: a head that is asked every day, and a tail that is new every day. */
function fill(db: Db, searchesADay: number): void {
  const { $client: client } = db;
  client.pragma('synchronous = OFF');
  const hours = client.prepare(`insert or replace into insight_hours values (1, ?, ?, ?, ?, ?, ?, ?)`);
  const days = client.prepare(`insert or replace into insight_days values (1, ?, ?, ?)`);
  const times = client.prepare(`insert or replace into insight_times values (1, ?, ?, ?, ?)`);
  const queries = client.prepare(
    `insert or replace into insight_queries (collection_id, tag, day, words, text, searches, visitors, missed, clicked, places, conversions, refined, chosen, ms_sum, ms_most, last_at)
     values (1, ?, ?, ?, ?, ?, ?, ?, ?, ?, 1, ?, 1, ?, 9, ?)`,
  );
  const choices = client.prepare(`insert or replace into insight_choices values (1, ?, ?, 'colour', ?, 5)`);
  const records = client.prepare(`insert or replace into insight_records values (1, ?, ?, ?, 9, ?)`);
  for (let day = TODAY - 2 * DAYS; day <= TODAY; day++)
    client.transaction(() => {
      for (const tag of TAGS) {
        const all = Math.round(searchesADay / (tag === '' ? 1 : 3));
        days.run(tag, day, Math.round(all / 3));
        for (let hour = 0; hour < 24; hour++) {
          const n = Math.round(all / 24);
          hours.run(tag, day * 24 + hour, n, Math.round(n / 12), Math.round(n / 2), n, Math.round(n / 50));
        }
        for (let bucket = 30; bucket < 90; bucket++) times.run(tag, day, bucket, Math.round(all / 60));
        for (let i = 0; i < QUERIES_A_DAY; i++) {
          const words = i < QUERIES_A_DAY / 2 ? `query ${i}` : `query ${i} of ${day}`;
          const n = Math.max(1, Math.round(all / (i + 3) / 8));
          const missed = i % 6 === 0 ? n : 0;
          queries.run(tag, day, words, words, n, n, missed, missed ? 0 : Math.round(n / 2), n, i % 5, n * 1.5, day * 86_400_000); // prettier-ignore
        }
        for (let i = 0; i < 200; i++) choices.run(tag, day, `value ${i}`);
        for (let i = 0; i < RECORDS_A_DAY; i++) records.run(tag, day, `P-${(i * 7 + day) % 20_000}`, i % 4);
      }
    })();
}
