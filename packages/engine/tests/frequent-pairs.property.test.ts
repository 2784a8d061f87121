import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { planFor, Segment, SegmentBuilder } from '../src/index.ts';
import { findTogether, workTogether } from '../src/query/match/phrase.ts';
import { frequentTerms } from '../src/segment/frequent-pairs.ts';
import { findWord } from '../src/segment/trie.ts';
import { runs } from './arbitraries.ts';

const tuning = completeTuning({ search: [{ field: 'a' }, { field: 'b' }, { field: 'c' }] });

function segmentOf(records: readonly RecordJson[], frequentDocs?: number): Segment {
  const builder = new SegmentBuilder(planFor([tuning]), frequentDocs === undefined ? {} : { frequentDocs });
  records.forEach((record, i) =>
    builder.add({ versionId: i + 1, order: i + 1, key: `k${i}`, json: JSON.stringify(record) }),
  );
  return new Segment(builder.finish((bytes) => new ArrayBuffer(bytes)));
}

const word = fc.oneof(
  { weight: 6, arbitrary: fc.constantFrom('red', 'rose', 'tall', 'wi-fi', 'x20') },
  { weight: 1, arbitrary: fc.constantFrom('agave', 'fern', 'moss') },
);
const text = fc.array(word, { maxLength: 6 }).map((words) => words.join(' '));
const record = fc.record({ a: text, b: fc.array(text, { maxLength: 3 }), c: text }, { requiredKeys: [] });
const spoken = fc.constantFrom('red', 'rose', 'tall', 'wi', 'fi', 'wifi', 'x', '20', 'agave');

test('words that stand together are found in the same locations, whether the index names pairs or not', () => {
  fc.assert(
    fc.property(
      fc.array(record, { minLength: 1, maxLength: 40 }),
      fc.array(spoken, { minLength: 2, maxLength: 4 }),
      fc.array(fc.nat(1), { minLength: 3, maxLength: 3 }),
      (records, words, chosen) => {
        const [naming, expansion] = [segmentOf(records, 1), segmentOf(records)];
        const weights = (segment: Segment): number[] =>
          segment.meta.searchFields.map((field) => chosen['abc'.indexOf(field)]!);
        const [named, read] = [naming, expansion].map((segment) => findTogether(segment, words, weights(segment)));
        expect([...named!.docs]).toEqual([...read!.docs]);
        expect([...named!.locations]).toEqual([...read!.locations]);
        expect(workTogether(naming, words)).toBeLessThanOrEqual(workTogether(expansion, words));
      },
    ),
    runs(300),
  );
});

test('a long way from the start of a text, and in documents far apart, locations are told as they are', () => {
  const far = `${'other '.repeat(1_200)}red rose`;
  const records = Array.from({ length: 400 }, (_, i): RecordJson =>
    i % 199 === 1 ? { a: far } : { a: 'rose red', b: i < 90 ? 'red' : '' },
  );
  const [naming, expansion] = [segmentOf(records, 1), segmentOf(records)];
  expect(naming.pairs.pairOf(findWord(naming.trie, 'red'), findWord(naming.trie, 'rose'))).not.toBe(-1);
  for (const words of [
    ['red', 'rose'],
    ['rose', 'red'],
    ['other', 'red', 'rose'],
  ]) {
    const [named, read] = [naming, expansion].map((segment) => findTogether(segment, words, [1, 1, 1]));
    expect(named).toEqual(read);
  }
  expect([...findTogether(naming, ['red', 'rose'], [1, 1, 1]).docs]).toEqual([1, 200, 399]);
});

test('frequent are the words in an eighth of the documents and in many, fifteen at most', () => {
  const held = [50, 200, 10, 125, 124, 1_000];
  expect(frequentTerms(6, 1_000, (term) => held[term]!, 100)).toEqual([1, 3, 5]);
  expect(frequentTerms(6, 1_000, (term) => held[term]!, 150)).toEqual([1, 5]);
  expect(frequentTerms(6, 1_000, (term) => held[term]!)).toEqual([]);
  expect(frequentTerms(30, 8, (term) => 10 + term, 1)).toEqual(Array.from({ length: 15 }, (_, i) => 15 + i));
});
