import fc from 'fast-check';
import {
  PartedSegment,
  partSegment,
  planFor,
  search,
  SegmentBuilder,
  SegmentFormatError,
  Segment,
  Tombstones,
  type Generation,
} from '../src/index.ts';
import { packDifferences, unpackDifferences } from '../src/bytes/var-ints.ts';
import { queryText, recordList, runs, someSelection, tuningDocument } from './arbitraries.ts';

const of = (segment: Segment): Generation => ({
  number: 1,
  segments: [{ segment, dead: new Tombstones(new SharedArrayBuffer(8), 0) }],
});

test('differences: any list of 32 bits comes back', () => {
  const number = fc.oneof(fc.integer({ min: 0, max: 300 }), fc.integer({ min: 0, max: 2 ** 32 - 1 }));
  fc.assert(
    fc.property(fc.array(number), (list) => {
      const numbers = Uint32Array.from(list);
      const back = new Uint32Array(list.length);
      unpackDifferences(packDifferences(numbers), back);
      expect([...back]).toEqual(list);
    }),
  );
});

test('a segment whose records come later answers as the whole one does, once they are there', () => {
  const case_ = fc.tuple(recordList, tuningDocument, queryText, someSelection, fc.integer({ min: 1, max: 400 }));
  fc.assert(
    fc.property(case_, ([records, tuning, q, select, partBytes]) => {
      const builder = new SegmentBuilder(planFor([tuning]));
      records.forEach((record, i) =>
        builder.add({ versionId: i + 1, order: i + 1, key: record.id as string, json: JSON.stringify(record) }),
      );
      const buffer = builder.finish((bytes) => new ArrayBuffer(bytes));
      const request = { q, select, facets: ['*'], size: 200 };
      const expected = search(of(new Segment(buffer)), tuning, request);
      const { index, parts, firstDocs } = partSegment(buffer, partBytes);
      // As bytes come from elsewhere: somewhere in a larger buffer.
      const around = new Uint8Array(index.length + 3);
      around.set(index, 3);
      const segment = new PartedSegment(around.subarray(3), firstDocs);
      const early = search(of(segment), tuning, request);
      // Order, totals and facets need no record.
      expect(early.results.map(({ id }) => id)).toEqual(expected.results.map(({ id }) => id));
      expect([early.total, early.facets]).toEqual([expected.total, expected.facets]);
      expect(segment.missing.size > 0).toBe(expected.results.length > 0);
      for (const part of segment.missing) segment.takePart(part, parts[part]!);
      segment.missing.clear();
      expect(search(of(segment), tuning, request)).toEqual(expected);
      expect(segment.missing.size).toBe(0);
      parts.forEach((bytes, part) => segment.hasPart(part) || segment.takePart(part, bytes));
      expect(segment.isWhole).toBe(true);
      // Byte for byte what it was.
      records.forEach((record, doc) => expect(segment.record(doc)).toEqual(record));
    }),
    runs(60),
  );
});

test('what is damaged is refused', () => {
  const builder = new SegmentBuilder({ languages: [], html: [], allStrings: true, searchFields: [], columns: [], labels: [], geo: [] }); // prettier-ignore
  for (let i = 1; i < 30; i++) builder.add({ versionId: i, order: i, key: `k${i}`, json: `{"name":"Lavender ${i}"}` });
  const { index, parts, firstDocs } = partSegment(
    builder.finish((bytes) => new ArrayBuffer(bytes)),
    100,
  );
  for (const length of [0, 40, 100, index.length - 1])
    expect(() => new PartedSegment(index.slice(0, length), firstDocs)).toThrow(SegmentFormatError);
  const segment = new PartedSegment(index, firstDocs);
  expect(() => segment.takePart(0, parts[0]!.slice(1))).toThrow(SegmentFormatError);
  expect(() => segment.takePart(parts.length, parts[0]!)).toThrow(SegmentFormatError);
});
