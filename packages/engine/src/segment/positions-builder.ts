import { type RecordJson, valueAt } from '@yucca/contract';
import { Section, type SectionInput } from '../bytes/flat-buffer.ts';
import { GrowingArray } from '../bytes/growing-array.ts';
import { readPosition } from '../geo/geo-point.ts';
import { buildTree } from '../geo/kd-tree.ts';

/** Collects the positions of one field, document by document. */
export class PositionsBuilder {
  readonly #path: string;
  readonly #lats = new GrowingArray(Float64Array);
  readonly #lngs = new GrowingArray(Float64Array);

  constructor(path: string) {
    this.#path = path;
  }

  /** Adds the next document. */
  add(record: RecordJson): void {
    const position = readPosition(valueAt(record, this.#path));
    this.#lats.push(position?.lat ?? Number.NaN);
    this.#lngs.push(position?.lng ?? Number.NaN);
  }

  finish(part: number): SectionInput[] {
    const [lats, lngs] = [this.#lats.view(), this.#lngs.view()];
    const placed: number[] = [];
    lats.forEach((lat, doc) => {
      if (!Number.isNaN(lat)) placed.push(doc);
    });
    const docs = Uint32Array.from(placed);
    buildTree(docs, lngs, lats);
    return [
      { kind: Section.GeoLats, part, data: lats },
      { kind: Section.GeoLngs, part, data: lngs },
      { kind: Section.GeoTree, part, data: docs },
    ];
  }
}
