import { withColumns, type AddedColumns } from '@yucca/engine';
import type { Entry } from './entry';
import { addTo, type Added, type Layer, type Layers } from './layers';
import { countOf, type SegmentBuilds } from './segment-builds';
import type { SegmentStore } from './segment-store';

interface Parts {
  builds: SegmentBuilds;
  store: SegmentStore;
  isOpen: (entry: Layers) => boolean;
  /** Runs work on an entry when it is its turn. */
  enqueue: (entry: Entry, work: () => Promise<void>) => Promise<void>;
  /** Brings the index up to the newest write, and shows it. */
  freshen: (entry: Entry) => Promise<void>;
}

/**
 * Gives an index the columns that a tuning asks for, as files beside its segments, whose texts stay as they are. With
 * the next merge they become part of the segments.
 */
export class ColumnAdder {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * Makes the columns beside the index, then takes them over in one step. What was merged or written meanwhile is
   * looked at again: nothing is taken over before every segment on disk has them. `onProgress`: 0 to 1.
   */
  async add(
    entry: Entry,
    more: AddedColumns,
    { onProgress, stillWanted }: { onProgress: (share: number) => void; stillWanted: () => boolean },
  ): Promise<void> {
    const { builds, isOpen, enqueue } = this.#parts;
    const { plan } = entry;
    const made = new Map<Layer, Added>();
    const lacking = (): Layer[] => entry.layers.filter((layer) => !made.has(layer));
    try {
      for (let done = false; !done;) {
        const all = entry.layers.reduce((sum, { segment }) => sum + segment.docs, 0) * countOf(more);
        let before = 0;
        for (const layer of lacking()) {
          const told = (records: number): void => onProgress(Math.min(1, (before + records) / Math.max(1, all)));
          made.set(layer, await builds.columns(entry, layer, more, told));
          before += layer.segment.docs * countOf(more);
        }
        await enqueue(entry, async () => {
          done = !isOpen(entry) || entry.plan !== plan || !stillWanted();
          if (done || lacking().length > 0) return;
          done = true;
          await this.#takeOver(entry, more, made);
        });
      }
    } finally {
      // Those of segments that were replaced, or all of them when something else is wanted by now.
      const inUse = new Set(entry.layers.flatMap(({ added }) => added));
      builds.throwAway(
        entry,
        [...made.values()].filter((one) => !inUse.has(one)),
      );
    }
  }

  async #takeOver(entry: Entry, more: AddedColumns, made: ReadonlyMap<Layer, Added>): Promise<void> {
    for (const layer of entry.layers) addTo(layer, made.get(layer)!);
    entry.plan = withColumns(entry.plan, more);
    this.#parts.store.keepPlan(entry);
    await this.#parts.freshen(entry);
  }
}
