/** What nobody is to wait for: completions, a draft that needs an index, a write beside one; real-shaped records. */
import type { SearchAnswer } from '@yucca/contract';
import { RealRecords } from './real-records.ts';
import { ask, call, loadLines, withServer } from './server.ts';
import { percentiles, quantile, round } from './stats.ts';

/** Times in milliseconds, from the request on. */
export interface WaitsResult {
  records: number;
  /** Completions over HTTP, one after the other. */
  suggestMedianMs: number;
  suggestP95Ms: number;
  /** Until a change of a draft is answered that needs an index made anew; the longest of some. */
  draftMs: number;
  /** Until a record that is written beside such an index can be searched; in the middle, and the longest. */
  writeMedianMs: number;
  writeMostMs: number;
  /** How many were written so, and how long the indexes took. */
  written: number;
  builtS: number;
}

const QUERIES = 60;
const DRAFTS = 3;
const LOOK_EVERY_MS = 10;
/** Writes come singly, as a person or a shop makes them. */
const WRITE_EVERY_MS = 250;

/** Loads so many real-shaped records into a built studio and asks it while indexes are made. */
export const measureWaits = (records: number): Promise<WaitsResult> =>
  withServer(async () => {
    await call('POST', '/collections', JSON.stringify({ name: 'parts', key: 'id' }));
    const source = new RealRecords();
    await loadLines('parts', records, (i) => JSON.stringify(source.record(i)));
    const log = source.keystrokes(QUERIES);
    const complete = async (q: string): Promise<number> =>
      took(() => ask(`/collections/parts/suggest?${new URLSearchParams({ q })}`));
    const typed: number[] = [];
    for (const [i, q] of [...log.slice(0, 100), ...log].entries()) {
      const ms = await complete(q);
      if (i >= 100) typed.push(ms);
    }
    const { medianMs, p95Ms } = percentiles(typed);
    const drafts: number[] = [];
    const writes: number[] = [];
    const start = performance.now();
    for (let n = 0; n < DRAFTS; n++) {
      // Other fields are read as HTML each time, so that all of the index is made anew.
      const draft = JSON.stringify({ html: [['name', 'text', 'scope'][n]] });
      drafts.push(await took(() => call('PATCH', '/collections/parts/tuning/draft', draft)));
      let isOver = false;
      const over = call('PATCH', '/collections/parts/tuning/draft?wait=true', draft).then(async (answer) => {
        await answer.arrayBuffer();
        isOver = true;
      });
      while (!isOver) {
        writes.push(await writeAndFind(source, writes.length));
        await new Promise((resolve) => setTimeout(resolve, WRITE_EVERY_MS));
      }
      await over;
    }
    return {
      records,
      suggestMedianMs: medianMs,
      suggestP95Ms: p95Ms,
      draftMs: round(Math.max(...drafts)),
      writeMedianMs: round(
        quantile(
          [...writes].sort((a, b) => a - b),
          0.5,
        ),
      ),
      writeMostMs: round(Math.max(...writes)),
      written: writes.length,
      builtS: round((performance.now() - start) / 1_000),
    };
  });

/** Milliseconds until an answer is there, whole. */
async function took(asking: () => Promise<Response>): Promise<number> {
  const start = performance.now();
  const answer = await asking();
  await answer.arrayBuffer();
  if (!answer.ok) throw new Error(`${answer.status} of ${answer.url}`);
  return performance.now() - start;
}

/** Milliseconds until a record that is written can be searched. */
async function writeAndFind(source: RealRecords, n: number): Promise<number> {
  const word = `zq${n.toString(36)}written`;
  const start = performance.now();
  const record = { ...source.record(n), id: `written-${n}`, name: `a part ${word}` };
  await (await call('PUT', `/collections/parts/records/written-${n}`, JSON.stringify(record))).arrayBuffer();
  for (;;) {
    const answer = (await (await ask(`/collections/parts/search?size=1&q=${word}`)).json()) as SearchAnswer;
    if (answer.total > 0) return performance.now() - start;
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
  }
}
