import { gunzipSync, gzipSync } from 'node:zlib';
import { PartedSegment, partSegment, planFor, search, SegmentBuilder, Tombstones } from '@yucca/engine';
import { RealRecords, realTuning } from './real-records.ts';
import { percentiles, round, timed } from './stats.ts';

/** A collection as a folder without a server has it. */
export interface OfflineResult {
  records: number;
  /** Building the index and taking it apart, packing included. */
  packS: number;
  /** As they are sent. */
  indexKb: number;
  partsKb: number;
  /** The index with postings as plain numbers, for comparison. */
  plainIndexKb: number;
  /** What the browser has to do before the first search: unpacking, and putting the index together. */
  unpackMs: number;
  openMs: number;
  /** One page of 24 results from anywhere: what is fetched in parts, and what ranges of one file would be. */
  pageKb: number;
  pageRangesKb: number;
  medianMs: number;
  p95Ms: number;
  p99Ms: number;
}

const PART_BYTES = 64 * 1024;
const RESULTS = 24;
const kb = (bytes: number): number => round(bytes / 1024, 1);

/** Measures a folder without a server with so many real-shaped records, in this process and on one core. */
export function measureOffline(count: number): OfflineResult {
  const generator = new RealRecords();
  const records = Array.from({ length: count }, (_, i) => JSON.stringify(generator.record(i + 1)));
  const keystrokes = generator.keystrokes(100);
  const start = performance.now();
  const builder = new SegmentBuilder(planFor([realTuning]));
  records.forEach((json, i) => builder.add({ versionId: i + 1, order: i + 1, key: `k${i}`, json }));
  const buffer = builder.finish((bytes) => new ArrayBuffer(bytes));
  const { index, parts, firstDocs } = partSegment(buffer, PART_BYTES);
  const packed = gzipSync(index);
  const packedParts = parts.map((part) => gzipSync(part).length);
  const packS = (performance.now() - start) / 1_000;
  const recordBytes = parts.reduce((sum, { length }) => sum + length, 0);
  const plain = gzipSync(new Uint8Array(buffer)).length - parts.reduce((sum, part) => sum + gzipSync(part).length, 0);
  let unpacked = index;
  const unpackMs = timed(() => (unpacked = gunzipSync(packed)));
  let segment!: PartedSegment;
  const openMs = timed(() => (segment = new PartedSegment(unpacked, firstDocs)));
  const dead = Tombstones.none(segment.docs, (bytes) => new ArrayBuffer(bytes));
  const generation = { number: 1, segments: [{ segment, dead }] };
  const facets = ['*'];
  const request = { size: RESULTS, facets };
  // Results of queries lie anywhere: what a page of them needs.
  const needed = keystrokes.slice(0, 200).map((q) => {
    segment.missing.clear();
    search(generation, realTuning, { ...request, q });
    return [...segment.missing].reduce((sum, part) => sum + packedParts[part]!, 0);
  });
  parts.forEach((part, i) => segment.takePart(i, part));
  const times = keystrokes.map((q) => timed(() => search(generation, realTuning, { ...request, q })));
  return {
    records: count,
    packS: round(packS),
    indexKb: kb(packed.length),
    partsKb: kb(packedParts.reduce((sum, bytes) => sum + bytes, 0)),
    plainIndexKb: kb(plain),
    unpackMs: round(unpackMs),
    openMs: round(openMs),
    pageKb: kb(needed.reduce((sum, bytes) => sum + bytes, 0) / needed.length),
    pageRangesKb: kb((recordBytes / count) * RESULTS),
    ...percentiles(times),
  };
}
