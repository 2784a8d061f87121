/** How long a thread that does nothing is kept from running: what of a long wait is the machine's own. */
import { Worker } from 'node:worker_threads';

/** It looks at the clock so often, in milliseconds. */
const TICK_MS = 5;

const WATCH = `
  const { workerData } = require('node:worker_threads');
  const longest = new Int32Array(workerData);
  let before = performance.now();
  for (;;) {
    Atomics.wait(longest, 1, 0, ${TICK_MS});
    const now = performance.now();
    const late = Math.round(now - before - ${TICK_MS});
    if (late > Atomics.load(longest, 0)) Atomics.store(longest, 0, late);
    before = now;
  }`;

export class Stalls {
  readonly #longest = new Int32Array(new SharedArrayBuffer(8));
  readonly #thread = new Worker(WATCH, { eval: true, workerData: this.#longest.buffer });

  /** From here on. */
  begin(): void {
    Atomics.store(this.#longest, 0, 0);
  }

  /** The longest one since then, in milliseconds. */
  longest(): number {
    return Atomics.load(this.#longest, 0);
  }

  end(): Promise<unknown> {
    return this.#thread.terminate();
  }
}
