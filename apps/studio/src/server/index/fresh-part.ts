import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { BuilderMethods } from '../workers/builder-worker';
import type { ThreadOnDemand } from '../workers/rpc';
import type { Entry } from './entry';
import { lastingVersion, markDeleted, newLayer, type Layers } from './layers';
import { FRESH_RECORDS, NEWEST_RECORDS, type SegmentBuilds } from './segment-builds';
import type { SegmentStore } from './segment-store';

interface Parts {
  builds: SegmentBuilds;
  store: SegmentStore;
  /** For segments of what was just written. */
  catchUp: ThreadOnDemand<BuilderMethods>;
  isOpen: (entry: Layers) => boolean;
  /** Runs work on an entry when it is its turn. */
  enqueue: (entry: Entry, work: () => Promise<void>) => Promise<void>;
  /** Shows an entry's new state to all searchers. */
  show: (entry: Entry) => void;
  log: Logger;
}

/**
 * Keeps what was written last searchable. It stands in two parts in memory: the newest, rebuilt with every write, and
 * the recent before it, which takes the newest in when those are some hundreds. That way of growing by parts, each
 * rebuilt less often than the one after it, is that of log-structured merge trees (O'Neil and others, 1996).
 */
export class FreshPart {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** Brings the index up to the newest write: a new fresh part, or first another segment when much was written. */
  async freshen(entry: Entry): Promise<void> {
    for (;;) {
      const { collectionId, plan } = entry;
      const lasting = lastingVersion(entry);
      if (entry.recent?.fromVersion !== lasting || entry.recent.plan !== plan) entry.recent = null;
      const fromVersion = entry.recent?.toVersion ?? lasting;
      const job = { collectionId, fromVersion, sinceTombstone: entry.lastTombstone, plan, atMost: FRESH_RECORDS };
      const built = await this.#parts.builds.fresh(job);
      // Meanwhile the others were looked at for columns of another plan, and this one was not among them.
      if (entry.plan !== plan) continue;
      if (built.tooMany) {
        const { builds, store, catchUp } = this.#parts;
        store.adopt(entry, await builds.shared(entry, catchUp, { fromVersion: lasting, plan }), plan, 0);
        if (lasting === 0) entry.epoch++;
        continue;
      }
      markDeleted(entry, built.deleted);
      entry.lastTombstone = built.tombstoneId;
      entry.fresh = built.buffer === null ? null : newLayer(randomUUID(), built.toVersion, built.buffer);
      this.#parts.show(entry);
      if (built.records > NEWEST_RECORDS) this.#gather(entry, lasting);
      return;
    }
  }

  /** Makes one part of all that is in memory, beside the writes; of more than belongs there, a segment. */
  #gather(entry: Entry, fromVersion: number): void {
    if (entry.gathering) return;
    entry.gathering = true;
    const { collectionId, lastTombstone: sinceTombstone, plan } = entry;
    const build = async (): Promise<void> => {
      const job = { collectionId, fromVersion, sinceTombstone, plan, atMost: FRESH_RECORDS };
      const built = await this.#parts.builds.recent(job);
      const { builds, store, catchUp } = this.#parts;
      const large = built.tooMany ? await builds.segment(entry, catchUp, { fromVersion, plan }) : null;
      await this.#parts.enqueue(entry, async () => {
        const isWanted = this.#parts.isOpen(entry) && lastingVersion(entry) === fromVersion && entry.plan === plan;
        if (!isWanted) return void (large && builds.throwAway(entry, [large]));
        if (large) {
          store.adopt(entry, [{ built: large, fromVersion }], plan, 0);
          if (fromVersion === 0) entry.epoch++;
        } else if (built.buffer !== null) {
          const layer = newLayer(randomUUID(), built.toVersion, built.buffer);
          entry.recent = { ...layer, fromVersion, plan };
        }
        // What was deleted since it was read is still to be marked in it.
        entry.lastTombstone = Math.min(entry.lastTombstone, (large ?? built).tombstoneId);
        await this.freshen(entry);
      });
    };
    build()
      .catch((error: Error) => {
        if (this.#parts.isOpen(entry))
          this.#parts.log.error({ collectionId, error: error.message }, 'gathering failed');
      })
      .finally(() => (entry.gathering = false));
  }
}
