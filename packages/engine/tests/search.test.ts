import { completeTuning, leavesAt, pick, type Tuning, type TuningDocument } from '@yucca/contract';
import fc from 'fast-check';
import { search, SearchRequestError } from '../src/index.ts';
import { generationOf } from './arbitraries.ts';

const records = [
  { id: '1', name: 'Snake plant', care: 'Water a snake plant rarely.', supplier: [{ id: 's1', name: 'Tidewell' }] },
  { id: '2', name: 'Rubber plant', care: 'Not for snakes.' },
  { id: '3', name: 'Agave americana', care: 'Full sun', price: 12, tags: ['agave', 'blue'] },
  { id: '4', name: 'Age of roses', care: 'A book about agave' },
];
const document: TuningDocument = {
  search: [
    { field: 'name', weight: 10 },
    { field: 'care', weight: 1 },
  ],
};
const ask = (q: string, more: TuningDocument = {}, request = {}) => {
  const tuning = completeTuning({ ...document, ...more });
  return search(generationOf(records, tuning), tuning, { q, ...request });
};
const ids = (q: string, more?: TuningDocument) => ask(q, more).results.map(({ id }) => id);

test('words side by side in a heavy field come first', () => {
  expect(ids('snake plant')).toEqual(['1', '2']);
  expect(ids('plant')).toEqual(['1', '2']);
});

test('a misspelling finds the word and says what it was read as', () => {
  const answer = ask('agve ');
  expect(answer.results.map(({ id }) => id)).toEqual(['3', '4']);
  expect(answer.understood.words).toEqual([{ text: 'agve', typo: true, as: ['agave', 'age'] }]);
  expect(answer.results[0]!.marks).toEqual({ '/name': [[0, 5]] });
});

test('an unfinished word with a typo finds the longer word', () => {
  expect(ids('snkae pla')).toEqual(['1']);
  expect(ask('amercan').results[0]!.marks).toEqual({ '/name': [[6, 15]] });
});

test('the typed part of a longer word is marked', () => {
  expect(ask('sna').results.map(({ id, marks }) => [id, marks])).toEqual([
    ['1', { '/name': [[0, 3]], '/care': [[8, 11]] }],
    ['2', { '/care': [[8, 11]] }],
  ]);
});

test('short words are taken as they are, numbers too', () => {
  expect(ids('agf')).toEqual([]);
  expect(ids('1234', { search: [{ field: 'id' }] })).toEqual([]);
  expect(ids('12', { search: [{ field: 'price' }] })).toEqual(['3']);
});

test('typos can be switched off, by word, by field and by first letter', () => {
  const off = { enabled: false };
  expect(ids('agve', { typos: off })).toEqual([]);
  expect(ids('agve', { typos: { exactWords: ['Agve'] } })).toEqual([]);
  expect(ids('agve ', { typos: { exactFields: ['name'] } })).toEqual(['4']);
  expect(ids('bgave', { typos: { firstLetter: false } })).toEqual([]);
  expect(ids('bgave ')).toEqual(['3', '4']);
});

test('joined forms that are longer than any word are found by their beginning', () => {
  const parts = ['a', 'b', 'c', 'd'].map((letter) => letter.repeat(40));
  const tuning = completeTuning({});
  const generation = generationOf([{ id: '1', code: parts.join('-') }], tuning);
  // Nine letters into the second part: only the joined form begins so.
  const [result] = search(generation, tuning, { q: `${'a'.repeat(40)}${'b'.repeat(9)}`, explain: true }).results;
  expect(result).toMatchObject({ id: '1', marks: { '/code': [[0, 50]] }, why: { words: 1 } });
  expect(result!.why!.text).toBeGreaterThan(0);
});

test('a word that falls apart in more ways than are tried says so', () => {
  const text = 'abcdefghijkl';
  const partsOf = (ways: number): string[] =>
    Array.from({ length: ways }, (_, i) => `${text.slice(0, i + 2)} ${text.slice(i + 2)}`);
  const wordsOf = (ways: number) => {
    const tuning = completeTuning({ typos: { enabled: false } });
    const written = partsOf(ways).map((name, i) => ({ id: String(i), name }));
    const answer = search(generationOf(written, tuning), tuning, { q: `${text} ` });
    return [answer.total, answer.understood.words[0]!.capped];
  };
  expect(wordsOf(8)).toEqual([8, undefined]);
  expect(wordsOf(9)).toEqual([8, true]);
});

test('words past the limit are ignored and named', () => {
  const answer = ask(`${'plant '.repeat(32)}extra words`);
  expect(answer.understood.dropped).toEqual(['extra', 'words']);
});

test('asking for facets or pages that are not there is refused with a pointer', () => {
  expect(() => ask('', {}, { facets: ['colr'] })).toThrow(SearchRequestError);
  expect(() => ask('', {}, { page: 101, size: 100 })).toThrow('10000');
  expect(() => ask('', {}, { select: { ['__proto__x']: ['a'] } })).toThrow('There is no facet');
});

test('any text as a query is answered, and quickly', () => {
  const hostile = [
    '"'.repeat(1000).slice(0, 512),
    '\ud800',
    '\u202e\u200f',
    '__proto__',
    'constructor',
    '%',
    '\\',
    'x'.repeat(512),
    '\u0000',
  ];
  for (const q of hostile) expect(ask(q).total).toBeGreaterThanOrEqual(0);
  fc.assert(fc.property(fc.string({ unit: 'binary', maxLength: 512 }), (q) => ask(q).total >= 0));
});

test('only the asked fields are returned, nested ones in their place', () => {
  const [first] = ask('snake', {}, { fields: ['name', 'supplier.name'] }).results;
  expect(first!.record).toEqual({ name: 'Snake plant', supplier: [{ name: 'Tidewell' }] });
  expect(Object.keys(first!.marks)).toEqual(['/name']);
  expect(pick({ a: { b: 1, c: 2 }, 'a.b': 3 }, ['a.b'])).toEqual({ a: { b: 1 }, 'a.b': 3 });
  expect(pick({ a: 1 }, ['b'])).toEqual({});
});

test('paths reach through lists, and into names that hold a dot, slash or tilde', () => {
  const found: [unknown, string][] = [];
  const record = { a: [{ b: 1 }, { b: ['x', null] }], 'a.b': true, '~/': { c: 'deep' } };
  leavesAt(record, 'a.b', (value, pointer) => found.push([value, pointer]));
  leavesAt(record, '~/.c', (value, pointer) => found.push([value, pointer]));
  expect(found).toEqual([
    [true, '/a.b'],
    [1, '/a/0/b'],
    ['x', '/a/1/b/0'],
    ['deep', '/~0~1/c'],
  ]);
});

test('words that share a place stand together with their neighbours', () => {
  const codes = [
    { id: '1', name: 'x20 x2' },
    { id: '2', name: 'x 2' },
    { id: '3', name: 'x y 2' },
  ];
  const tuning = completeTuning({ search: [{ field: 'name' }], typos: { enabled: false } });
  const found = (q: string) => search(generationOf(codes, tuning), tuning, { q }).results.map(({ id }) => id);
  expect(found('x2 ')).toEqual(['1', '2']);
  expect(found('"x 2"')).toEqual(['2', '1']);
  expect(found('"20 x2"')).toEqual(['1']);
});

test('with most words required, words that stand nowhere are given up first, then those of the least idf', () => {
  const most = { words: { require: 'most' as const } };
  const answer = ask('zzzzz agave americana', most);
  expect(answer.understood.dropped).toEqual(['zzzzz']);
  expect(answer.results.map(({ id }) => id)).toEqual(['3']);
  expect(ask('snake sun ', most).understood.dropped).toHaveLength(1);
  expect(ask('zzzzz qqqqq', most).total).toBe(0);
});

test('a word that stands in a field nobody searches is no word to have meant', () => {
  // An index made for two tunings: one searches the names alone.
  const wide = completeTuning({ search: [{ field: 'name' }, { field: 'note' }], typos: { enabled: false } });
  const narrow = completeTuning({ search: [{ field: 'name' }], typos: { enabled: false } });
  const records = [
    { id: '1', name: 'Jade plant', note: 'a jane of all trades' },
    { id: '2', name: 'Fern', note: 'jane, jane' },
  ];
  const generation = generationOf(records, wide, []);
  const asked = (tuning: Tuning): unknown => search(generation, tuning, { q: 'janx' }).understood.words[0]!.nearest;
  const taken = (tuning: Tuning): unknown => search(generation, tuning, { q: 'ja' }).understood.words[0]!.as;
  expect(taken(wide)).toEqual(['jane', 'jade']);
  expect(taken(narrow)).toEqual(['jade']);
  expect([asked(wide), asked(narrow)]).toEqual(['jane', 'jade']);
});
