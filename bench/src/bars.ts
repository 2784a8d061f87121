import type { EngineResult } from './engine.ts';
import type { FeedsResult } from './feeds.ts';
import type { HttpResult } from './http.ts';
import type { InsightsResult } from './insights.ts';
import type { LoadResult } from './load.ts';
import type { OfflineResult } from './offline.ts';
import type { RealResult } from './real.ts';
import { round } from './stats.ts';
import type { WaitsResult } from './waits.ts';

/** What the whole benchmark measures, part by part, by size. */
export interface Parts {
  engine: EngineResult[];
  real: RealResult[];
  spaceless: RealResult[];
  offline: OfflineResult[];
  load: LoadResult[];
  insights: InsightsResult[];
  feeds: FeedsResult[];
  waits: WaitsResult[];
  http: HttpResult[];
}

export const PARTS: readonly (keyof Parts)[] = ['engine', 'real', 'spaceless', 'offline', 'load', 'insights', 'feeds', 'waits', 'http']; // prettier-ignore

export interface Results extends Parts {
  measured: string;
  machine: object;
}

export interface Bar {
  what: string;
  bar: number;
  measured: number;
  holds: boolean;
}

/** The bars of the design, and whether they hold. Ratios come first: what they compare was measured in one run. */
export function barsOf({ engine, real, load, feeds, waits, http }: Results): Bar[] {
  const most = (what: string, bar: number, measured: number): Bar => ({ what, bar, measured, holds: measured <= bar });
  const least = (what: string, bar: number, measured: number): Bar => ({ what, bar, measured, holds: measured >= bar });
  const of = <T extends { records: number }>(results: T[], records: number): T =>
    results.find((result) => result.records === records)!;
  const [small, tenfold, middle, large] = [10_000, 100_000, 200_000, 1_000_000].map((size) => of(engine, size)) as [EngineResult, EngineResult, EngineResult, EngineResult]; // prettier-ignore
  const [http200k, http1M] = [of(http, 200_000), of(http, 1_000_000)];
  const [real200k, real1M] = [of(real, 200_000), of(real, 1_000_000)];
  const [loaded, fed, waited] = [load[0]!, feeds[0]!, waits[0]!];
  return [
    least('200 k: times faster than a scan', 20, middle.timesFasterThanScan),
    least('200 k real-shaped: times faster than a scan', 20, real200k.timesFasterThanScan),
    most('200 k real-shaped: times a search by a facet of 20,000 values', 1.3, real200k.withScopes),
    most('10 times the records, times the median', 5, round(tenfold.medianMs / small.medianMs)),
    most('again 10 times the records, times the median', 5, round(large.medianMs / tenfold.medianMs)),
    most('index to searchable and facet text', 1.2, middle.indexToText),
    least('an index made anew, times by two threads', 1.6, loaded.timesByTwo),
    most('16 connections: empty route, times a bare node:http', 2, round(http200k.mainMsEmpty / http200k.bareMs)),
    most('200 k: median ms a keystroke', 1.5, middle.medianMs),
    most('200 k: p95 ms', 6, middle.p95Ms),
    most('200 k: p99 ms', 15, middle.p99Ms),
    most('1 M: p95 ms', 25, large.p95Ms),
    most('200 k real-shaped: median ms a keystroke', 1.5, real200k.medianMs),
    most('200 k real-shaped: p95 ms', 6, real200k.p95Ms),
    most('200 k real-shaped: p99 ms', 12, real200k.p99Ms),
    most('1 M real-shaped: median ms a keystroke', 3, real1M.medianMs),
    most('1 M real-shaped: p95 ms', 20, real1M.p95Ms),
    most('200 k real-shaped: the slowest filter by keys and names, ms', 2, real200k.byKeyMs),
    most('200 k real-shaped: completions over HTTP, p95 ms', 20, waited.suggestP95Ms),
    most('200 k real-shaped: a draft that needs an index is answered, ms', 200, waited.draftMs),
    most('200 k real-shaped: a write beside an index that is made, ms', 1_000, waited.writeMostMs),
    most('200 k real-shaped: a change of a source beside it, ms', 1_000, fed.buildingMostMs),
    most('200 k real-shaped: one column more, s', 2, loaded.columnS),
    least('loaded until searchable, 8 fields, records a second', 25_000, loaded.narrowPerS),
    least('loaded until searchable, 30 fields, records a second', 8_000, loaded.widePerS),
    most('1 M: resident MB of the server', 2_500, http1M.residentMb),
    least('build, records a second', 50_000, middle.buildRecordsPerS),
    most('200 k: open, ms', 500, middle.openMs),
    most('200 k: upsert ms', 50, http200k.upsertMedianMs),
    most('16 connections: main thread ms a search', 0.35, http200k.mainMsSearch),
    most('16 connections: process ms a search besides the threads that search', 0.45, http200k.besidesSearchersMs),
    most('200 k: the most hostile request, ms', 50, middle.hostileMs),
    most('1 M: the most hostile request, ms', 50, large.hostileMs),
  ];
}
