import type { BuilderMethods } from '../workers/builder-worker';
import type { ThreadOnDemand } from '../workers/rpc';
import type { Entry } from './entry';
import type { FreshPart } from './fresh-part';
import { markDeleted, newLayer, type Built, type Gap, type Layers } from './layers';
import type { SegmentBuilds } from './segment-builds';
import type { SegmentStore } from './segment-store';

/** Records of the first piece of a gap, and how much larger each next one is: something can be found soon. */
const FIRST_PIECE = 2_000;
const PIECE_GROWTH = 4;

interface Parts {
  builds: SegmentBuilds;
  store: SegmentStore;
  fresh: FreshPart;
  builder: ThreadOnDemand<BuilderMethods>;
  isOpen: (entry: Layers) => boolean;
  /** Runs work on an entry when it is its turn. */
  enqueue: (entry: Entry, work: () => Promise<void>) => Promise<void>;
}

/** Indexes again what no usable segment covers when an index is opened, piece by piece, the newest records first. */
export class GapFiller {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /** The first piece of the newest gap: what was written last can be found as soon as anything can. */
  async fillNewest(entry: Entry): Promise<void> {
    const gap = entry.gaps.at(-1);
    if (!gap) return;
    const piece = this.#pieceOf(entry.collectionId, gap, FIRST_PIECE);
    this.#adopt(entry, await this.#build(entry, piece), gap, piece);
  }

  /** All the rest; other work on the entry comes between the pieces. Whether it was filled to its end. */
  async fillAll(entry: Entry): Promise<boolean> {
    const { builds, fresh, isOpen, enqueue } = this.#parts;
    const { epoch } = entry;
    const current = (): boolean => entry.epoch === epoch && isOpen(entry);
    for (let size = FIRST_PIECE * PIECE_GROWTH; current() && entry.gaps.length > 0; size *= PIECE_GROWTH) {
      // The newest first: what was written last is looked for first.
      const gap = entry.gaps.at(-1)!;
      const piece = this.#pieceOf(entry.collectionId, gap, size);
      const built = await this.#build(entry, piece);
      await enqueue(entry, async () => {
        if (!current()) return builds.throwAway(entry, [built]);
        this.#adopt(entry, built, gap, piece);
        await fresh.freshen(entry);
      });
    }
    return current();
  }

  #build(entry: Entry, piece: Gap): Promise<Built> {
    return this.#parts.builds.segment(entry, this.#parts.builder, { ...piece, plan: entry.plan });
  }

  /** The last so many records of a gap. */
  #pieceOf(collectionId: number, { fromVersion, toVersion }: Gap, size: number): Gap {
    return { fromVersion: this.#parts.store.versionBefore(collectionId, fromVersion, toVersion, size), toVersion };
  }

  #adopt(entry: Entry, built: Built, gap: Gap, piece: Gap): void {
    if (built.buffer !== null) {
      const layer = newLayer(built.id, piece.toVersion, built.buffer);
      const { collectionId, plan } = entry;
      const { id, tombstoneId } = built;
      this.#parts.store.keepRow(layer, { id, collectionId, ...piece, tombstoneId, plan: JSON.stringify(plan) }, built);
      entry.layers = [...entry.layers, layer].sort((a, b) => a.toVersion - b.toVersion);
    }
    const rest = { fromVersion: gap.fromVersion, toVersion: piece.fromVersion };
    entry.gaps = entry.gaps.flatMap((one) => (one !== gap ? [one] : rest.toVersion > rest.fromVersion ? [rest] : []));
    markDeleted(entry, built.deleted);
  }
}
