import fc from 'fast-check';
import { planFor, Segment, SegmentBuilder, SegmentFormatError, Tombstones, search } from '../src/index.ts';
import { checksum, readSegment, writeSegment } from '../src/bytes/flat-buffer.ts';
import { completeTuning, facetValues } from '@yucca/contract';
import { generationOf } from './arbitraries.ts';

const plain = (bytes: number): ArrayBuffer => new ArrayBuffer(bytes);

function build(records: object[], allocate = plain): ArrayBuffer {
  const builder = new SegmentBuilder(planFor([completeTuning({ facets: [{ name: 'colour', field: 'colour' }] })]));
  records.forEach((record, i) =>
    builder.add({ versionId: 10 + i * 2, order: i, key: `k${i}`, json: JSON.stringify(record) }),
  );
  return builder.finish(allocate);
}

test('what goes in comes out: records, keys, versions', () => {
  const records = [{ name: 'Père 💐', colour: ['red', 'red'] }, { ['__proto__']: 1, name: '' }, {}];
  const segment = new Segment(build(records));
  expect(segment.docs).toBe(3);
  records.forEach((record, doc) => expect(JSON.stringify(segment.record(doc))).toBe(JSON.stringify(record)));
  expect([0, 1, 2].map((doc) => segment.key(doc))).toEqual(['k0', 'k1', 'k2']);
  expect([10, 11, 12, 14, 16].map((versionId) => segment.docOfVersion(versionId))).toEqual([0, -1, 1, 2, -1]);
});

test('numbers that follow each other take no room, and are the same', () => {
  const made = (
    numbers: readonly (readonly [version: number, order: number])[],
  ): { segment: Segment; bytes: number } => {
    const builder = new SegmentBuilder(planFor([completeTuning({})]));
    for (const [versionId, order] of numbers) builder.add({ versionId, order, key: `k${versionId}`, json: '{}' });
    const buffer = builder.finish(plain);
    return { segment: new Segment(buffer), bytes: buffer.byteLength };
  };
  const sizes = [
    { numbers: Array.from({ length: 64 }, (_, i) => [100 + i, 100 + i] as const), inOrder: true },
    // A gap: one was deleted before the index was made.
    { numbers: Array.from({ length: 64 }, (_, i) => [100 + i + (i > 9 ? 1 : 0), 100 + i + (i > 9 ? 1 : 0)] as const), inOrder: true }, // prettier-ignore
    // A record that was changed keeps its place.
    { numbers: Array.from({ length: 64 }, (_, i) => [100 + i, i === 63 ? 7 : 100 + i] as const), inOrder: false },
  ].map(({ numbers, inOrder }) => {
    const { segment, bytes } = made(numbers);
    numbers.forEach(([version, order], doc) => {
      expect(segment.docOfVersion(version)).toBe(doc);
      expect(segment.order(doc)).toBe(order);
    });
    for (const absent of [99, 110, 200].filter((id) => !numbers.some(([version]) => version === id)))
      expect(segment.docOfVersion(absent)).toBe(-1);
    expect(segment.isInOrder).toBe(inOrder);
    return bytes;
  });
  expect([sizes[1]! - sizes[0]!, sizes[2]! - sizes[0]!]).toEqual([64 * 4, 64 * 4]);
});

test('the same bytes open in shared memory', () => {
  const bytes = new Uint8Array(build([{ name: 'rose' }]));
  const shared = new SharedArrayBuffer(bytes.length);
  new Uint8Array(shared).set(bytes);
  const segment = new Segment(shared);
  expect(segment.record(0)).toEqual({ name: 'rose' });
});

test('any flipped bit after the header, any cut and any other file is refused', () => {
  const bytes = new Uint8Array(build([{ name: 'rose', colour: 'red' }, { name: 'fern' }]));
  fc.assert(
    fc.property(fc.integer({ min: 64, max: bytes.length - 1 }), fc.integer({ min: 0, max: 7 }), (at, bit) => {
      const harmed = bytes.slice();
      harmed[at]! ^= 1 << bit;
      expect(() => new Segment(harmed.buffer)).toThrow(SegmentFormatError);
    }),
    { numRuns: 300 },
  );
  for (const length of [0, 10, 64, 100, bytes.length - 8]) {
    expect(() => new Segment(bytes.slice(0, length).buffer)).toThrow(SegmentFormatError);
  }
  expect(() => new Segment(new ArrayBuffer(4096))).toThrow('not a segment');
});

test('a segment of another format version is refused by its number', () => {
  const buffer = build([{ name: 'rose' }]);
  new DataView(buffer).setUint32(4, 99, true);
  expect(() => new Segment(buffer)).toThrow('format version 99');
});

test('sections keep their types and stand on eight bytes', () => {
  const buffer = writeSegment(
    [
      { kind: 1, data: new Uint8Array([1, 2, 3]) },
      { kind: 2, part: 4, data: new Float64Array([1.5]) },
      { kind: 3, data: new Uint16Array() },
    ],
    plain,
  );
  const section = readSegment(buffer);
  expect([...section(1)]).toEqual([1, 2, 3]);
  expect([...section(2, 4)]).toEqual([1.5]);
  expect(section(2, 4).byteOffset % 8).toBe(0);
  expect(section(3)).toHaveLength(0);
  expect(() => section(9)).toThrow('missing');
});

test('the checksum is xxHash32 with seed 0', () => {
  // The value other implementations give for four zero bytes.
  expect(checksum(new Uint32Array(1))).toBe(0x08d6d969);
});

test('an empty segment answers', () => {
  const generation = generationOf([], completeTuning({}), []);
  expect(search({ number: 1, segments: generation.segments }, completeTuning({}), { q: 'rose' }).total).toBe(0);
  expect(search({ number: 1, segments: [] }, completeTuning({}), { q: 'rose' }).total).toBe(0);
});

test('tombstones take records out of results and counts, and leave the older set as it was', () => {
  const tuning = completeTuning({ search: [{ field: 'name' }], facets: [{ name: 'colour', field: 'colour' }] });
  const records = ['red', 'red', 'blue'].map((colour, i) => ({ id: `r${i}`, name: 'rose', colour }));
  const { segments } = generationOf(records, tuning);
  const dead = segments[0]!.dead.with([0, 2, 2], plain);
  expect(dead.count).toBe(2);
  const answer = search({ number: 2, segments: [{ segment: segments[0]!.segment, dead }] }, tuning, {
    q: 'rose',
    facets: ['*'],
  });
  expect(answer.results.map(({ id }) => id)).toEqual(['r1']);
  expect(facetValues(answer.facets.colour)).toEqual([{ value: 'red', label: 'red', count: 1, selected: false }]);
  expect(search({ number: 1, segments }, tuning, { q: '' }).total).toBe(3);
  expect(search({ number: 2, segments: [{ segment: segments[0]!.segment, dead }] }, tuning, { q: '' }).total).toBe(1);
  expect(Tombstones.none(33, plain).bits).toHaveLength(2);
});
