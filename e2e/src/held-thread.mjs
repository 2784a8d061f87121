/**
 * Read by a server before its own code (`node --import`): watches for how long its main thread works at a stretch. On
 * SIGUSR2 it writes the longest since the last time, in milliseconds, to the file named by YUCCA_HELD.
 */
import { existsSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { performance } from 'node:perf_hooks';
import { setImmediate } from 'node:timers';
import { isMainThread } from 'node:worker_threads';

/** Where Linux keeps the time that this thread had a core for, in nanoseconds, as the first number. */
const SCHEDULED = '/proc/thread-self/schedstat';

/**
 * For how long this thread has worked, in milliseconds. Counted is the time it had a core for: what else the machine
 * does is not this thread's doing. Where the system does not tell it, the time of the clock counts.
 */
const workedMs = existsSync(SCHEDULED)
  ? () => Number.parseInt(readFileSync(SCHEDULED, 'latin1'), 10) / 1e6
  : () => performance.now();

function watch(file) {
  let [longest, before] = [0, workedMs()];
  const look = () => {
    const now = workedMs();
    longest = Math.max(longest, now - before);
    before = now;
  };
  setImmediate(function again() {
    look();
    setImmediate(again).unref();
  });
  process.on('SIGUSR2', () => {
    look();
    writeFileSync(`${file}.new`, String(longest));
    renameSync(`${file}.new`, file);
    longest = 0;
    before = workedMs();
  });
}

if (isMainThread && process.env.YUCCA_HELD) watch(process.env.YUCCA_HELD);
