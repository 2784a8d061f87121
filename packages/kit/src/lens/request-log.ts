import type { RequestEvent } from '../client.ts';
import { Store } from '../store.ts';

/** One request, from its start to its end. Times are in milliseconds as `performance.now()` counts them. */
export interface RequestEntry {
  id: number;
  /** What was typed. */
  text: string;
  /** What was asked for: the last part of the path, such as `search`. */
  what: string;
  start: number;
  /** The first byte of the answer; null while it is waited for. */
  head: number | null;
  end: number | null;
  /** Letters of the answer. */
  bytes: number;
  /** What the server says of itself (`Server-Timing`): within the engine, and in all. */
  engineMs: number | null;
  serverMs: number | null;
  outcome: 'open' | 'done' | 'cancelled' | 'failed' | 'cached';
}

/** Reads one duration out of a `Server-Timing` header (W3C). */
function timing(header: string | null, name: string): number | null {
  const found = header?.split(',').find((metric) => metric.trim().startsWith(`${name};`));
  const duration = /;\s*dur=([\d.]+)/.exec(found ?? '')?.[1];
  return duration === undefined ? null : Number(duration);
}

/** The last requests of a client, the oldest first: give its `hear` to the client as `onRequest`. */
export class RequestLog extends Store<readonly RequestEntry[]> {
  readonly #most: number;

  constructor(most = 40) {
    super([]);
    this.#most = most;
  }

  /** Notes a request as it goes on. */
  readonly hear = (event: RequestEvent): void => {
    if (event.kind === 'start') {
      const { id, text, at } = event;
      const what = event.path === '/search' ? 'multi-search' : (event.path.replace(/\?.*/, '').split('/').at(-1) ?? '');
      const entry: RequestEntry = { id, text, what, start: at, head: null, end: null, bytes: 0, engineMs: null, serverMs: null, outcome: 'open' }; // prettier-ignore
      this.put([...this.snapshot(), entry].slice(-this.#most));
    } else if (event.kind === 'head') {
      const [engineMs, serverMs] = [timing(event.timing, 'engine'), timing(event.timing, 'total')];
      this.#change(event.id, { head: event.at, engineMs, serverMs });
    } else this.#change(event.id, { end: event.at, outcome: event.outcome, bytes: event.bytes });
  };

  /** Forgets all of them. */
  clear(): void {
    this.put([]);
  }

  #change(id: number, change: Partial<RequestEntry>): void {
    this.put(this.snapshot().map((entry) => (entry.id === id ? { ...entry, ...change } : entry)));
  }
}
