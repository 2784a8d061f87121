/** Words inside compounds: engine and reference agree, and nothing but words of the collection parts a word. */
import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { planFor, search, Segment, SegmentBuilder } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';
import { referenceSearch } from './reference/reference.ts';

const WORDS = [
  ...['Garten', 'Schere', 'Gartenschere', 'Gartenscherenhalter', 'Halter', 'Blume', 'Blumentopf', 'Topf', 'Topfblume'],
  ...[
    'Rose',
    'Rosengarten',
    'Wirtschaft',
    'Wirtschaftsgarten',
    'Hausgarten',
    'Haus',
    'Gartenhaus',
    'Gärten',
    'Scheren',
  ],
  ...['Rosenscherenhaus', 'Töpfe', 'Entenrose', 'Ente', 'Kleingärtner', 'Gartenbau', 'Bau'],
];
const text = fc.array(fc.constantFrom(...WORDS), { maxLength: 4 }).map((list) => list.join(' '));
const records = fc
  .array(fc.record({ name: text, care: text }), { minLength: 1, maxLength: 8 })
  .map((list) => list.map((fields, i): RecordJson => ({ id: `r${i}`, ...fields })));
const asked = fc.tuple(
  fc.array(fc.constantFrom(...WORDS, 'topf', 'garte', '-Garten'), { minLength: 1, maxLength: 2 }),
  fc.constantFrom('', ' '),
);
const german = (more: object = {}) =>
  completeTuning({ search: [{ field: 'name', weight: 5 }, { field: 'care' }], language: 'de', stems: false, ...more });

test('sets, order and marks', () => {
  fc.assert(
    fc.property(records, asked, fc.boolean(), fc.boolean(), fc.constantFrom<number[]>([], [2], [1, 4]), (...drawn) => {
      const [list, [words, end], compounds, enabled, cuts] = drawn;
      const q = words.join(' ') + end;
      const tuning = german({ compounds, typos: { enabled } });
      const answer = search(generationOf(list, tuning, cuts), tuning, { q, size: 50 });
      expect(answer.results.map(({ id, marks }) => ({ id, marks }))).toEqual(
        referenceSearch(list, tuning, { q }).results.map(({ id, marks }) => ({ id, marks })),
      );
    }),
    runs(150),
  );
});

const found = (list: RecordJson[], q: string, tuning = german()) =>
  search(generationOf(list, tuning), tuning, { q, explain: true }).results;

test('a part is found below the word as written, and the explanation says so', () => {
  const list = [
    { id: 'compound', name: 'Gartenschere' },
    { id: 'word', name: 'Schere für den Garten' },
  ];
  const results = found(list, 'schere');
  expect(results.map(({ id }) => id)).toEqual(['word', 'compound']);
  expect(results[1]!.marks).toEqual({ '/name': [[6, 12]] });
  expect(results[1]!.why!.parts).toMatchObject([{ how: 'compound', matched: 'gartenschere' }]);
});

test('what no words of the collection part is one word', () => {
  const list = [
    { id: 'inside', name: 'Kohlrabi' },
    { id: 'other', name: 'Zwiebel' },
  ];
  expect(found(list, 'rabi ')).toEqual([]);
  expect(found([...list, { id: 'part', name: 'Kohl' }], 'rabi ').map(({ id }) => id)).toEqual(['inside']);
});

test('switched off, or in another language, the index keeps nothing for it', () => {
  const segmentOf = (more: object) => {
    const builder = new SegmentBuilder(planFor([german(more)]));
    builder.add({ versionId: 1, order: 1, key: '1', json: JSON.stringify({ name: 'Garten Gartenschere' }) });
    return new Segment(builder.finish((bytes) => new ArrayBuffer(bytes)));
  };
  expect(segmentOf({}).wordEnds.length).toBe(1);
  expect(segmentOf({ compounds: false }).wordEnds.length).toBe(0);
  expect(segmentOf({ language: 'en' }).wordEnds.length).toBe(0);
});
