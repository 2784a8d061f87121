import { completeTuning, type Tuning } from '@yucca/contract';
import { planFor, search, Segment, SegmentBuilder, Tombstones } from '@yucca/engine';
import { COLLECTIONS } from '../src/collections';

/** A collection of the demo with its records and its tuning, ready to be searched. */
export function opened(name: string, records: readonly { id: string }[]) {
  const tuning: Tuning = completeTuning(COLLECTIONS.find((one) => one.name === name)!.tuning);
  const builder = new SegmentBuilder(planFor([tuning]));
  records.forEach((record, i) =>
    builder.add({ versionId: i + 1, order: i + 1, key: record.id, json: JSON.stringify(record) }),
  );
  const room = (bytes: number): ArrayBuffer => new ArrayBuffer(bytes);
  const segment = new Segment(builder.finish(room));
  const generation = { number: 1, segments: [{ segment, dead: Tombstones.none(segment.docs, room) }] };
  return (request: Parameters<typeof search>[2]) => search(generation, tuning, request);
}
