/**
 * Lets simulated visitors use the running server: they type letter by letter, look at what is found, open some of it.
 *
 *   npm run visitors                      20 visits at http://127.0.0.1:4310
 *   npm run visitors -- 200 http://…      others
 */
import type { SearchAnswer, VisitorEvent } from '@yucca/contract';
import { Chance } from './random.ts';
import { wishesOf } from './traffic.ts';

/** Visits that go on at the same time. */
const AT_ONCE = 8;
const COLLECTION = 'plants';
const SLUG = 'nursery';

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function ask<T>(base: string, path: string, body: object): Promise<T> {
  const headers = { 'Content-Type': 'application/json' };
  const answer = await fetch(`${base}/api/v1${path}`, { method: 'POST', headers, body: JSON.stringify(body) });
  if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
  return (await answer.json()) as T;
}

/** One visit; resolves with how many searches it took. `pace`: 1 as people type, less for quicker ones. */
export async function visit(base: string, number: number, pace: number): Promise<number> {
  const chance = new Chance(`visitor ${number}`);
  const session = crypto.randomUUID();
  const who = { session, viewer: session, tags: [`page:${SLUG}`, `width:${chance.pick(['phone', 'desktop'])}`] };
  const search = (q: string): Promise<SearchAnswer> =>
    ask(base, `/collections/${COLLECTION}/search`, { q, size: 24, fields: ['id'], ...who });
  const { q } = chance.pick(wishesOf(COLLECTION));
  let searches = 0;
  let answer: SearchAnswer | undefined;
  for (let letters = 2; letters <= q.length; letters++) {
    answer = await search(q.slice(0, letters));
    searches++;
    await pause(pace * chance.between(60, 260));
  }
  await pause(pace * chance.between(1_600, 5_000));
  const { queryId, results } = answer!;
  const events: VisitorEvent[] = results
    .slice(0, 6)
    .map(({ id }, i) => ({ type: 'view', id: `${queryId} ${i}`, queryId, recordId: id, position: i + 1, session }));
  const opened = chance.happens(0.7) ? Math.floor(chance.next() ** 2 * results.length) : results.length;
  if (opened < results.length)
    events.push({ type: 'click', queryId, recordId: results[opened]!.id, position: opened + 1, session });
  if (events.length > 0) await ask(base, '/events', { events });
  return searches;
}

async function main(): Promise<void> {
  const visits = Number(process.argv[2] ?? 20);
  const base = process.argv[3] ?? 'http://127.0.0.1:4310';
  let next = 0;
  let searches = 0;
  await Promise.all(
    Array.from({ length: AT_ONCE }, async () => {
      while (next < visits) searches += await visit(base, next++, 1);
    }),
  );
  process.stdout.write(`${visits} visits, ${searches} searches. Look at ${base}/c/${COLLECTION}/insights\n`);
}

if (process.argv[1]?.endsWith('visitors.ts')) await main();
