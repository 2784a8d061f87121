/**
 * Memories below this size share a weight of it. Above 32 MB the C library maps zeroed pages that nobody has touched: a
 * weight takes addresses and no memory.
 */
const SHARED_WEIGHT = 33 * 2 ** 20;

/** What is smaller is not counted: with it, many small collections made the process larger (e2e/hostile/leaks). */
const LEAST = 2 ** 20;

/** Where a shared memory keeps its weight. */
const WEIGHT = Symbol('weight');

let current = { weight: new ArrayBuffer(0), left: 0 };

/**
 * Has this thread count a shared memory that it was given or has made. V8 does not count what lies behind a
 * SharedArrayBuffer, because several threads would count it: a thread that has let go of an index of 200 MB sees no
 * reason to collect its garbage, and while one of them holds the small object that stands for it, nobody gets the
 * memory back. An ArrayBuffer of the same size is counted, so each shared memory holds one that is never written to:
 * both are let go of together, and V8 collects in time, a step at a time as it does for any memory.
 *
 * Without it a studio whose index is built again every minute grows by an index each time (`npm run bench -- --mixed`).
 */
export function weighed(buffer: SharedArrayBuffer): SharedArrayBuffer {
  const held = buffer as SharedArrayBuffer & { [WEIGHT]?: ArrayBuffer };
  if (held[WEIGHT]) return buffer;
  const bytes = buffer.byteLength;
  if (bytes < LEAST) return buffer;
  if (bytes >= SHARED_WEIGHT) {
    held[WEIGHT] = new ArrayBuffer(bytes);
    return buffer;
  }
  if (current.left < bytes) current = { weight: new ArrayBuffer(SHARED_WEIGHT), left: SHARED_WEIGHT };
  current.left -= bytes;
  held[WEIGHT] = current.weight;
  return buffer;
}

/** Memory that threads share, counted by the one that makes it; the others count what they are given by `weighed`. */
export const sharedMemory = (bytes: number): SharedArrayBuffer => weighed(new SharedArrayBuffer(bytes));
