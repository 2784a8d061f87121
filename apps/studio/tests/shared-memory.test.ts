/** @jest-environment node */
import { setImmediate as turn } from 'node:timers/promises';
import { sharedMemory, weighed } from '../src/server/index/shared-memory';

const MB = 2 ** 20;
const residentMb = (): number => process.memoryUsage.rss() / MB;

/** Makes one memory after the other, fills it, holds the newest alone; returns by how much the process grew at most. */
async function growth(make: () => SharedArrayBuffer, times: number): Promise<number> {
  const before = residentMb();
  let most = 0;
  let held: SharedArrayBuffer | null = null;
  for (let i = 0; i < times; i++) {
    held = make();
    new Uint8Array(held).fill(1);
    await turn();
    most = Math.max(most, residentMb() - before);
  }
  expect(held!.byteLength).toBeGreaterThan(0);
  return most;
}

test('an index that replaces another gives its memory back, again and again', async () => {
  // 2.4 GB in all; without weights none of it is given back.
  expect(await growth(() => sharedMemory(40 * MB), 60)).toBeLessThan(1_000);
});

test('so do many smaller ones', async () => {
  expect(await growth(() => sharedMemory(4 * MB), 400)).toBeLessThan(1_000);
});

test('so do thousands of small ones, as writes make them', async () => {
  expect(await growth(() => sharedMemory(MB / 4), 6_000)).toBeLessThan(1_000);
});

test('what is told twice is counted once; a weight takes addresses and no memory', () => {
  const before = residentMb();
  const held = Array.from({ length: 20 }, () => weighed(weighed(new SharedArrayBuffer(200 * MB))));
  expect(held).toHaveLength(20);
  expect(residentMb() - before).toBeLessThan(200);
});
