/** Where a shared memory keeps its weight. */
const WEIGHT = Symbol('weight');

/** An ArrayBuffer that may grow has pages of its own; until they are written to they are addresses and no memory. */
const addresses = (bytes: number): ArrayBuffer =>
  new (ArrayBuffer as new (length: number, options: { maxByteLength: number }) => ArrayBuffer)(bytes, {
    maxByteLength: bytes,
  });

/**
 * Has this thread count a shared memory that it was given or has made. V8 does not count what lies behind a
 * SharedArrayBuffer, because several threads would count it: a thread that has let go of an index of 200 MB sees no
 * reason to collect its garbage, and while one of them holds the small object that stands for it, nobody gets the
 * memory back. An ArrayBuffer of the same size is counted, so each shared memory holds one that is never written to:
 * both are let go of together, and V8 collects in time, a step at a time as it does for any memory.
 *
 * Without it a studio whose index is built again every minute grows by an index each time (`npm run bench -- --mixed`),
 * and one that is written to by the small part in memory that each write makes.
 */
export function weighed(buffer: SharedArrayBuffer): SharedArrayBuffer {
  const held = buffer as SharedArrayBuffer & { [WEIGHT]?: ArrayBuffer };
  held[WEIGHT] ??= addresses(buffer.byteLength);
  return buffer;
}

/** Memory that threads share, counted by the one that makes it; the others count what they are given by `weighed`. */
export const sharedMemory = (bytes: number): SharedArrayBuffer => weighed(new SharedArrayBuffer(bytes));
