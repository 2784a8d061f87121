import { tuningChanges, type TuningDocument } from '../src/index.ts';

const sentences = (before: TuningDocument, after: TuningDocument): string[] =>
  tuningChanges(before, after).map(({ sentence }) => sentence);

test('nothing differs between a document and its defaults written out', () => {
  expect(sentences({}, { language: 'en', typos: { enabled: true }, show: ['*'] })).toEqual([]);
});

test.each<[string, TuningDocument, TuningDocument, string[]]>([
  [
    'weights and fields',
    {
      search: [
        { field: 'name', weight: 10 },
        { field: 'care', weight: 2 },
      ],
    },
    { search: [{ field: 'name', weight: 10 }, { field: 'care', weight: 4 }, { field: 'id' }] },
    ['Searched fields added: “id”', '“care” weight 2 → 4'],
  ],
  [
    'a new order',
    {
      facets: [
        { name: 'a', field: 'a' },
        { name: 'b', field: 'b' },
      ],
    },
    {
      facets: [
        { name: 'b', field: 'b' },
        { name: 'a', field: 'a' },
      ],
    },
    ['Facets: new order, “b”, “a”'],
  ],
  [
    'a property of a facet',
    { facets: [{ name: 'a', field: 'a' }] },
    { facets: [{ name: 'a', field: 'a', match: 'all', buckets: [0, 10] }] },
    ['Facet “a” match: any → all', 'Facet “a” buckets: none → 0, 10'],
  ],
  [
    'typos',
    {},
    { typos: { oneFrom: 5, exactFields: ['id'] } },
    ['Typos: oneFrom: 4 → 5', 'Fields without typos added: “id”'],
  ],
  [
    'synonyms',
    { synonyms: [{ kind: 'same', words: ['a', 'b'] }] },
    { synonyms: [{ kind: 'oneWay', from: ['a'], to: ['b', 'c'] }] },
    ['Synonyms added: “a → b, c”', 'Synonyms removed: “a = b”'],
  ],
  [
    'plain values',
    {},
    { signalShare: 0.5, geo: 'position', stems: false },
    ['Other forms of words: on → off', 'Share of signals: 0.2 → 0.5', 'Field with the position: none → position'],
  ],
  [
    'many at once',
    {},
    { stopWords: ['a', 'b', 'c', 'd', 'e', 'f'] },
    ['Stop words added: “a”, “b”, “c”, “d” and 2 more'],
  ],
  [
    'placements',
    { placements: [{ name: 'p', when: {} }] },
    { placements: [{ name: 'p', when: {}, hide: ['x'] }] },
    ['Placement “p” changed'],
  ],
])('%s', (_, before, after, expected) => {
  expect(sentences(before, after)).toEqual(expected);
});
