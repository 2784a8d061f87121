/** Whatever is loaded, the thread that takes requests is not held by it. */
import { existsSync, readFileSync } from 'node:fs';
import { House } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  // Once before: what is compiled then is not compiled again.
  await house.yucca.collections.create({ name: 'first' });
  await house.load('first', csv(10), 'text/csv');
});
afterAll(() => house.leave());

const csv = (columns: number, rows = 300): string => {
  const head = `id,${Array.from({ length: columns }, (_, i) => `field ${i}`).join(',')}`;
  const row = Array.from({ length: columns }, (_, i) => `value ${i}`).join(',');
  return `${head}\n${Array.from({ length: rows }, (_, i) => `${i},${row}`).join('\n')}\n`;
};
const LIMIT_MS = 50;
/** Almost a link, over and over: a pattern that goes back tries each beginning of it with each end. */
const almost = `/${'x.svg?'.repeat(30_000)} `;

test.each<[string, () => string, string]>([
  ['fields by the thousand', () => csv(990), 'text/csv'],
  [
    'texts that are almost links',
    () => JSON.stringify(Array.from({ length: 40 }, (_, id) => ({ id, name: almost }))),
    'application/json',
  ],
  [
    'records as large as they may be',
    () => JSON.stringify(Array.from({ length: 60 }, (_, id) => ({ id, name: 'word '.repeat(50_000) }))),
    'application/json',
  ],
  [
    'lists of ten thousand',
    () =>
      JSON.stringify(
        Array.from({ length: 20 }, (_, id) => ({ id, tags: Array.from({ length: 10_000 }, (_, i) => `t${i}`) })),
      ),
    'application/json',
  ],
])('%s', async (name, body, type) => {
  const bytes = Buffer.from(body());
  const tries: number[] = [];
  // A machine that is busy with something else has its say too: what our own code does shows in every try.
  while (tries.length < 3 && !tries.some((ms) => ms <= LIMIT_MS))
    tries.push(await longestHoldMs(`${name.replaceAll(' ', '-')}-${tries.length}`, bytes, type));
  expect({ tries, fits: Math.min(...tries) <= LIMIT_MS }).toMatchObject({ fits: true });
});

/** Where Linux keeps the time that this thread had a core for, in nanoseconds, as the first number. */
const SCHEDULED = '/proc/thread-self/schedstat';

/**
 * For how long this thread has worked, in milliseconds. Counted is the time it had a core for: what else the machine
 * does is not this thread's doing. Where the system does not tell it, the time of the clock counts.
 */
const workedMs = existsSync(SCHEDULED)
  ? () => Number.parseInt(readFileSync(SCHEDULED, 'latin1'), 10) / 1e6
  : () => performance.now();

/** Watches for how long this thread works at a stretch; tells it in milliseconds, at the longest. */
function watchHolds(): () => number {
  let [longest, before, isOver] = [0, workedMs(), false];
  setImmediate(function look() {
    const now = workedMs();
    longest = Math.max(longest, now - before);
    before = now;
    if (!isOver) setImmediate(look);
  });
  return () => {
    isOver = true;
    return Math.max(longest, workedMs() - before);
  };
}

test('a thread that is held is noticed', async () => {
  const longestMs = watchHolds();
  await new Promise((resolve) => setTimeout(resolve, 20));
  for (const start = workedMs(); workedMs() - start < 2 * LIMIT_MS;);
  await new Promise((resolve) => setTimeout(resolve, 20));
  expect(longestMs()).toBeGreaterThan(LIMIT_MS);
});

/** Loads into a new collection; returns for how long the thread was held at the longest. */
async function longestHoldMs(collection: string, bytes: Buffer, type: string): Promise<number> {
  await house.yucca.collections.create({ name: collection });
  const body = (async function* () {
    for (let at = 0; at < bytes.length; at += 65_536) yield new Uint8Array(bytes.subarray(at, at + 65_536));
  })();
  const longestMs = watchHolds();
  const task = await house.load(collection, '', type, { body });
  const longest = longestMs();
  expect(task.state).toBe('done');
  expect(task.done).toBeGreaterThan(0);
  return Math.round(longest);
}
