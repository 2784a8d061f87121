import type { RemoteThread } from '../workers/rpc';
import type { WriterMethods } from '../workers/writer-worker';
import type { FeedTarget, Taken } from './apply-changes';
import type { FeedChange } from './read-events';

/** What a source sent in one request. */
export interface Message {
  message: string;
  changes: FeedChange[];
}

interface Waiting extends Message {
  resolve: (taken: Taken) => void;
  reject: (error: unknown) => void;
}

/** Changes stored in one transaction: other writes come between. */
const MOST_TOGETHER = 500;

/**
 * Stores what sources send. What comes of a feed while something of it is being stored is stored together after it:
 * one flush to the disk for all (group commit), so that a source that sends each change by itself is not held up by the
 * disk.
 */
export class TakeTogether {
  readonly #writer: Pick<RemoteThread<WriterMethods>, 'call'>;
  readonly #waiting = new Map<string, Waiting[]>();

  constructor(writer: Pick<RemoteThread<WriterMethods>, 'call'>) {
    this.#writer = writer;
  }

  /** `order`: looked at when it is their turn; a feed may have been paused, or resumed, since. */
  take(feedId: string, order: () => { target: FeedTarget; paused: boolean }, message: Message): Promise<Taken> {
    return new Promise((resolve, reject) => {
      const waiting = this.#waiting.get(feedId);
      const one = { ...message, resolve, reject };
      if (waiting) return void waiting.push(one);
      this.#waiting.set(feedId, []);
      void this.#store(feedId, order, [one]);
    });
  }

  async #store(feedId: string, order: () => { target: FeedTarget; paused: boolean }, first: Waiting[]): Promise<void> {
    for (let now = first; now.length > 0; now = this.#next(feedId)) {
      try {
        const { target, paused } = order();
        const messages = now.map(({ message, changes }) => ({ message, changes }));
        // Nothing is waited for between asking how the feed is and this: whoever resumes it applies these too.
        const taken = await this.#writer.call('feedTake', [target, messages, { paused, now: Date.now() }]);
        now.forEach(({ resolve }, i) => resolve(taken[i]!));
      } catch (error) {
        for (const { reject } of now) reject(error);
      }
    }
    this.#waiting.delete(feedId);
  }

  #next(feedId: string): Waiting[] {
    const waiting = this.#waiting.get(feedId)!;
    let many = 0;
    const end = waiting.findIndex(({ changes }, i) => (many += changes.length) > MOST_TOGETHER && i > 0);
    return waiting.splice(0, end === -1 ? waiting.length : end);
  }
}
