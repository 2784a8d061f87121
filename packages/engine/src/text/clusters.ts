let segmenter: Intl.Segmenter | undefined;

/** Below the first combining mark every unit is a letter of its own, but for the two of a line end. */
const SIMPLE = 0x0300;

/** Whether a place may lie inside what a reader sees as one letter: two looks, where both neighbours are plain. */
export const mayTearCluster = (source: string, at: number): boolean =>
  source.charCodeAt(at) >= SIMPLE || source.charCodeAt(at - 1) >= SIMPLE;

/**
 * The borders of the grapheme clusters of a text (UAX #29), where marks may begin and end: no vowel sign is parted from
 * its letter, no family of emoji is torn.
 */
export class ClusterBorders {
  readonly #length: number;
  readonly #clusters: Intl.Segments;

  constructor(source: string) {
    segmenter ??= new Intl.Segmenter(undefined, { granularity: 'grapheme' });
    this.#length = source.length;
    this.#clusters = segmenter.segment(source);
  }

  /** The last border at or before a place. */
  before(at: number): number {
    return at >= this.#length ? this.#length : this.#clusters.containing(at)!.index;
  }

  /** The first border at or after a place. */
  after(at: number): number {
    if (at >= this.#length) return this.#length;
    const { index, segment } = this.#clusters.containing(at)!;
    return index === at ? at : index + segment.length;
  }
}
