import { Segment, Tombstones, type IndexPlan } from '@yucca/engine';
import type { segments as segmentRows } from '../db/schema';
import type { BuiltSegment } from './build-segment';
import { sharedMemory, weighed } from './shared-memory';

/** A segment that was built, and what the disk said of its file. */
export type Built = BuiltSegment & { id: string; unsaved: string | null };

/** A built segment that holds what was written after a version. */
export interface Piece {
  built: Built;
  fromVersion: number;
}

/** A column segment beside a segment. */
export interface Added {
  id: string;
  buffer: SharedArrayBuffer;
  /** What the disk said when it refused the file; it is tried again when the disk takes what is written. */
  unsaved: string | null;
}

/** One segment in use. */
export interface Layer {
  id: string;
  toVersion: number;
  buffer: SharedArrayBuffer;
  /** Its column segments, oldest first. */
  added: readonly Added[];
  segment: Segment;
  dead: Tombstones;
  /** The disk refused its file; it is tried again when the disk takes what is written. */
  unsaved?: UnsavedRow;
}

/** The row that will speak of a segment once its file is there. */
export type UnsavedRow = Omit<typeof segmentRows.$inferInsert, 'bytes'>;

/** A segment in memory alone, of what was written after those on disk. */
export interface Recent extends Layer {
  /** It holds what was written after this version, and was built by this plan. */
  fromVersion: number;
  plan: IndexPlan;
}

/** Versions that no open segment covers: `(fromVersion, toVersion]`. */
export interface Gap {
  fromVersion: number;
  toVersion: number;
}

/** The index of one collection: what makes up its present generation. */
export interface Layers {
  readonly collectionId: number;
  /** What every layer can answer. */
  plan: IndexPlan;
  /** The segments on disk, oldest first. */
  layers: Layer[];
  /** The records written since, rebuilt in memory when some hundreds more were written. */
  recent: Recent | null;
  /** Those written after that, rebuilt with every change. */
  fresh: Layer | null;
  /** Tombstones up to this one are in the tombstones of all layers. */
  lastTombstone: number;
  /**
   * Builds of it that are not taken over yet. What was deleted since they were begun must stay known, whatever else is
   * taken over meanwhile.
   */
  underWay: number;
  /** What is missing from the answers until it is indexed again, oldest first. */
  gaps: Gap[];
}

/** A segment and what was added to it, opened; all of it was checked when it was read or built. */
const openedSegment = (buffer: SharedArrayBuffer, added: readonly Added[]): Segment =>
  new Segment(weighed(buffer), { verify: false, added: added.map((one) => weighed(one.buffer)) });

export function newLayer(
  id: string,
  toVersion: number,
  buffer: SharedArrayBuffer,
  added: readonly Added[] = [],
): Layer {
  const segment = openedSegment(buffer, added);
  return { id, toVersion, buffer, added, segment, dead: Tombstones.none(segment.docs, sharedMemory) };
}

/** Adds a column segment to a layer. */
export function addTo(layer: Layer, one: Added): void {
  layer.added = [...layer.added, one];
  layer.segment = openedSegment(layer.buffer, layer.added);
}

/** What a layer takes in memory and on the disk. */
export const bytesOf = ({ buffer, added }: Layer): number =>
  added.reduce((sum, one) => sum + one.buffer.byteLength, buffer.byteLength);

export function allLayers(entry: Layers): Layer[] {
  return [...lastingLayers(entry), ...(entry.fresh ? [entry.fresh] : [])];
}

/** Those that outlast the next write. */
function lastingLayers({ layers, recent }: Layers): Layer[] {
  return recent ? [...layers, recent] : layers;
}

/** What is written after it is in memory alone. */
export const lastingVersion = ({ layers, gaps }: Layers): number =>
  Math.max(layers.at(-1)?.toVersion ?? 0, gaps.at(-1)?.toVersion ?? 0);

/** Adds deleted versions to the tombstones of the layers that hold them. */
export function markDeleted(entry: Layers, deleted: readonly number[]): void {
  if (deleted.length === 0) return;
  for (const layer of lastingLayers(entry)) {
    const docs = deleted.map((versionId) => layer.segment.docOfVersion(versionId)).filter((doc) => doc !== -1);
    if (docs.length > 0) layer.dead = layer.dead.with(docs, sharedMemory);
  }
}
