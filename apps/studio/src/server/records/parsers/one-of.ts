import { once, type EventEmitter } from 'node:events';

/**
 * Waits for whichever of some events comes first, and leaves no listener behind. Throws what the emitter calls an
 * error.
 */
export async function oneOf(emitter: EventEmitter, ...events: string[]): Promise<void> {
  const over = new AbortController();
  const waiting = events.map((event) => once(emitter, event, { signal: over.signal }));
  try {
    await Promise.race(waiting);
  } finally {
    over.abort();
    // Those that lost are called off now; nobody is to hear of it.
    await Promise.allSettled(waiting);
  }
}
