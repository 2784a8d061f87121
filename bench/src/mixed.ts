/** Searches, writes, tuning and publishing side by side for a long while: does anything get slower, or grow? */
import type { SearchAnswer, TuningDocument } from '@yucca/contract';
import { setTimeout as pause } from 'node:timers/promises';
import { PLAIN_TUNING, RealRecords } from './real-records.ts';
import { BASE, call, KEY, loadLines, residentMb, withServer } from './server.ts';
import { Stalls } from './stalls.ts';
import { percentiles, round } from './stats.ts';

export interface MixedResult {
  records: number;
  minutes: number;
  searches: number;
  medianMs: number;
  p95Ms: number;
  p99Ms: number;
  mostMs: number;
  /** Searches that took longer than a quarter of a second. */
  over250: number;
  /** The longest of them, longest first: of which the machine kept an idle thread from running for `stalledMs`. */
  longest: readonly LongSearch[];
  writes: number;
  /** Drafts that were saved, those of them that needed columns or another index, and versions that were published. */
  drafts: number;
  published: number;
  /**
   * Resident memory over the second fifth of the time and over the last one, on average, and at its least: between two
   * builds, of which one takes more than the index it makes. At its highest of all the time.
   */
  residentEarlyMb: number;
  residentLateMb: number;
  leastEarlyMb: number;
  leastLateMb: number;
  residentMostMb: number;
  /** The longest that the server's main thread could take nothing in, since the load. */
  mainHeldMostMs: number;
}

interface LongSearch {
  q: string;
  /** Seconds since the beginning. */
  at: number;
  ms: number;
  /** What the server says of it. */
  totalMs: number;
  engineMs: number;
  stalledMs: number;
  /** The longest that the server's main thread was held since somebody looked the last time, five seconds at most. */
  mainHeldMs: number;
}

/** A visitor types a letter every so many milliseconds, a record is written, a draft saved. */
const SEARCH_MS = 50;
const WRITE_MS = 250;
const DRAFT_MS = 20_000;
const LOOK_MS = 5_000;
const TOO_LONG_MS = 250;
const MOST_TOLD = 30;
/** Of the drafts, every so many-th is published. */
const PUBLISHED = 3;

/** Every draft changes a weight; these change what the index is made of, too: columns, or all of it. */
const CHANGES: readonly TuningDocument[] = [
  { signals: [{ field: 'stock', weight: 1 }] },
  { sorts: [{ name: 'name', by: [{ field: 'name', order: 'asc' }] }] },
  { html: ['price'] },
  { sorts: [], signals: [], facets: PLAIN_TUNING.facets! },
  { facets: [...PLAIN_TUNING.facets!, { name: 'price', field: 'price' }] },
  { html: [] },
];

/** Runs so many minutes over so many real-shaped records. */
export const measureMixed = (records: number, minutes: number): Promise<MixedResult> =>
  withServer(async (server) => {
    const stalls = new Stalls();
    try {
      const source = new RealRecords();
      await call('POST', '/collections', JSON.stringify({ name: 'parts', key: 'id' }));
      await call('PUT', '/collections/parts/tuning/draft', JSON.stringify(PLAIN_TUNING));
      await call('POST', '/collections/parts/tuning/publish', '{}');
      await loadLines('parts', records, (i) => JSON.stringify(source.record(i)));
      const log = source.keystrokes(400);
      const end = performance.now() + minutes * 60_000;
      const isOver = (): boolean => performance.now() >= end;
      const times: number[] = [];
      const long: LongSearch[] = [];
      const held: number[] = [];
      const start = performance.now();
      const searchNext = async (n: number): Promise<void> => {
        const q = log[n % log.length]!;
        const begun = performance.now();
        stalls.begin();
        const timing = await searched(q);
        const ms = performance.now() - begun;
        times.push(ms);
        if (ms <= TOO_LONG_MS) return;
        const stalledMs = stalls.longest();
        const mainHeldMs = await heldSinceLastLook();
        held.push(mainHeldMs);
        long.push({ q, at: Math.round((begun - start) / 1_000), ms: round(ms), ...timing, stalledMs, mainHeldMs });
      };
      const memory: number[] = [];
      const look = async (): Promise<void> => {
        memory.push(residentMb(server.pid!));
        held.push(await heldSinceLastLook());
      };
      // Starting, and taking a load in, are another matter.
      await heldSinceLastLook();
      const [writes, drafts] = await Promise.all([
        every(WRITE_MS, isOver, (n) => write(source, records, n)),
        every(DRAFT_MS, isOver, saveDraft),
        every(SEARCH_MS, isOver, searchNext),
        every(LOOK_MS, isOver, look),
      ]);
      const fifth = Math.floor(memory.length / 5);
      const [early, late] = [memory.slice(fifth, 2 * fifth), memory.slice(-fifth)];
      const mean = (list: number[]): number => Math.round(list.reduce((sum, one) => sum + one, 0) / list.length);
      return {
        records,
        minutes,
        searches: times.length,
        ...percentiles(times),
        mostMs: round(Math.max(...times)),
        over250: long.length,
        longest: long.sort((a, b) => b.ms - a.ms).slice(0, MOST_TOLD),
        writes,
        drafts,
        published: Math.floor(drafts / PUBLISHED),
        residentEarlyMb: mean(early),
        residentLateMb: mean(late),
        leastEarlyMb: Math.min(...early),
        leastLateMb: Math.min(...late),
        residentMostMb: Math.max(...memory),
        mainHeldMostMs: Math.max(...held),
      };
    } finally {
      await stalls.end();
    }
  });

/** Does something at a steady pace, or as soon as the time before it has ended; returns how often it was done. */
async function every(ms: number, isOver: () => boolean, run: (n: number) => Promise<void>): Promise<number> {
  let due = performance.now();
  for (let n = 0; ; n++) {
    if (isOver()) return n;
    await run(n);
    due = Math.max(due + ms, performance.now());
    await pause(due - performance.now());
  }
}

/** How long the server's main thread was held at most since this was asked the last time, in milliseconds. */
async function heldSinceLastLook(): Promise<number> {
  const text = await (await call('GET', '/metrics', null)).text();
  return round(1_000 * Number(/^nodejs_eventloop_lag_max_seconds (.*)$/m.exec(text)![1]), 0);
}

/** One keystroke, with all facets and twenty results; returns the milliseconds that the server says it took. */
async function searched(q: string): Promise<{ totalMs: number; engineMs: number }> {
  const address = `${BASE}/api/v1/collections/parts/search?facets=*&size=20&q=${encodeURIComponent(q)}`;
  const response = await fetch(address, { headers: { Authorization: `Bearer ${KEY}` } });
  if (!response.ok) throw new Error(await response.text());
  const { timing } = (await response.json()) as SearchAnswer;
  return { totalMs: round(timing.totalMs), engineMs: round(timing.engineMs) };
}

/** Every other one is new, one of ten of these is changed nine times and then deleted. */
async function write(source: RealRecords, records: number, n: number): Promise<void> {
  const id = `new-${n % 2 === 0 ? n : n - (n % 20)}`;
  const route = `/collections/parts/records/${encodeURIComponent(id)}`;
  if (n % 20 === 19) await (await call('DELETE', route, null)).arrayBuffer();
  else await (await call('PUT', route, JSON.stringify({ ...source.record(records + n), id }))).arrayBuffer();
}

async function saveDraft(n: number): Promise<void> {
  const change = {
    ...CHANGES[n % CHANGES.length],
    search: [{ field: 'name', weight: 5 + (n % 5) }, { field: 'text' }],
  };
  await (await call('PATCH', '/collections/parts/tuning/draft?wait=true', JSON.stringify(change))).arrayBuffer();
  if (n % PUBLISHED === PUBLISHED - 1)
    await (await call('POST', '/collections/parts/tuning/publish?wait=true', '{}')).arrayBuffer();
}
