import { completeTuning, type RecordJson, type TuningDocument } from '@yucca/contract';
import fc from 'fast-check';
import { isWorthOffering, keysWhere, sampleWords, search, searchFacet, suggest } from '../src/index.ts';
import { makeSnippet } from '../src/query/present/snippet.ts';
import { generationOf } from './arbitraries.ts';

const LONG =
  'Plant it deep. Water well in spring, then an agave rarely; in winter not at all. Turn the pot. Agave likes sun.';
const records: RecordJson[] = [
  {
    id: '1',
    name: 'Agave americana',
    care: LONG,
    secret: 'agave',
    kind: 'Succulents',
    makers: [{ id: 'm1', name: 'Tidewell' }],
  },
  {
    id: '2',
    name: 'Aloe <b>vera</b> agave',
    care: '',
    kind: 'Succulents',
    makers: [{ id: 'm2', name: 'Fennick & Daughters' }],
  },
  {
    id: '3',
    name: 'Rose',
    care: 'Prune in March.',
    kind: 'Shrubs',
    makers: [
      { id: 'm2', name: 'Fennick & Daughters' },
      { id: 'm1', name: 'Tidewell' },
    ],
  },
];
const document: TuningDocument = {
  search: [{ field: 'name', weight: 5 }, { field: 'care' }, { field: 'secret' }],
  facets: [
    { name: 'kind', field: 'kind' },
    { name: 'maker', field: 'makers.id', labelField: 'makers.name' },
    { name: 'price', field: 'price', kind: 'numbers' },
  ],
  hide: ['secret'],
};
const ask = (q: string, more: TuningDocument = {}, request = {}) => {
  const tuning = completeTuning({ ...document, ...more });
  return search(generationOf(records, tuning, [2]), tuning, { q, ...request });
};

test('hidden fields are searched and never shown, not even by a mark', () => {
  const [first] = ask('agave').results;
  expect(first!.record).not.toHaveProperty('secret');
  expect(Object.keys(first!.marks)).toEqual(['/name', '/care']);
  expect(ask('agave', { mark: ['name'] }).results[0]!.marks).toEqual({ '/name': [[0, 5]] });
  expect(ask('agave', {}, { fields: ['id'] }).results[0]).toMatchObject({ record: { id: '1' }, marks: {} });
});

test('a snippet is the part with most of the query, cut at words, with its matches', () => {
  const { snippets } = ask('agave winter', { snippets: [{ field: 'care', words: 6 }] }).results[0]!;
  const [snippet] = snippets['/care']!;
  expect(snippet!.text).toBe('…an agave rarely; in winter not…');
  expect(snippet!.ranges.map(([start, end]) => snippet!.text.slice(start, end))).toEqual(['agave', 'winter']);
  expect(ask('', { snippets: [{ field: 'care', words: 4 }] }).results[0]!.snippets['/care']![0]!.text).toBe(
    'Plant it deep. Water…',
  );
});

test('a snippet is a piece of its text, whatever the text', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.nat(40), fc.integer({ min: 4, max: 12 }), (source, at, length) => {
      const start = Math.min(at, source.length);
      const hits = start < source.length ? [{ start, end: Math.min(source.length, start + 3), word: 0 }] : [];
      const { text, ranges } = makeSnippet(source, hits, length);
      expect(source).toContain(text.replace(/^…/, '').replace(/…$/, '').trim());
      for (const [from, to] of ranges) expect(source).toContain(text.slice(from, to));
    }),
  );
});

test('tags in a field of HTML are no words, and marks stand where they stood', () => {
  expect(ask('b', { words: { prefix: 'none' } }).total).toBe(1);
  const html = { html: ['name'], words: { prefix: 'none' as const } };
  expect(ask('b', html).total).toBe(0);
  expect(ask('vera', html).results[0]!.marks).toEqual({ '/name': [[8, 12]] });
});

test('ids keep their own names, inside lists of objects too', () => {
  const { maker } = ask('', {}, { facets: ['maker'], select: { maker: ['m1'] } }).facets;
  expect(maker).toMatchObject({
    values: [
      { value: 'm2', label: 'Fennick & Daughters', count: 2, selected: false },
      { value: 'm1', label: 'Tidewell', count: 2, selected: true },
    ],
  });
});

test('values of a facet are found by their names, within the results, typos forgiven', () => {
  const tuning = completeTuning(document);
  const generation = generationOf(records, tuning, [2]);
  const look = (text: string, request = {}) => searchFacet(generation, tuning, request, 'maker', text, 10);
  expect(look('daugh').values).toEqual([
    { value: 'm2', label: 'Fennick & Daughters', count: 2, selected: false, ranges: [[10, 15]] },
  ]);
  expect(look('fenick daughtres').total).toBe(1);
  expect(look('', { q: 'rose' }).values.map(({ value, count }) => [value, count])).toEqual([
    ['m1', 1],
    ['m2', 1],
  ]);
  expect(look('zzz').total).toBe(0);
  const accents = generationOf([{ id: '1', kind: 'Bo\u0301reale Stra\u00dfe' }], tuning);
  const markedIn = (text: string) => {
    const [value] = searchFacet(accents, tuning, {}, 'kind', text, 5).values;
    return value!.ranges.map(([start, end]) => value!.label.slice(start, end));
  };
  expect([markedIn('bo'), markedIn('strass')]).toEqual([['Bo\u0301'], ['Stra\u00df']]);
  expect(() => searchFacet(generation, tuning, {}, 'price', 'x', 5)).toThrow('has no values');
  expect(() => searchFacet(generation, tuning, {}, 'nope', 'x', 5)).toThrow('no facet called');
});

test('a look into a facet takes as many different words as a query may have, and gives up early on what is too long', () => {
  const tuning = completeTuning(document);
  const generation = generationOf(records, tuning, [2]);
  const values = (text: string) =>
    searchFacet(generation, tuning, {}, 'maker', text, 10).values.map(({ value }) => value);
  expect(values(Array.from({ length: 200 }, () => 'daugh').join(' '))).toEqual(['m2']);
  // What is asked for past the last word that counts is not looked for: here one that stands nowhere.
  const words = Array.from({ length: 32 }, (_, i) => `n${i}`);
  const named = generationOf([{ id: '1', kind: words.join(' ') }], tuning);
  const inKind = (asked: string[]) => searchFacet(named, tuning, {}, 'kind', asked.join(' '), 5).total;
  expect([inKind(words), inKind([...words, 'nowhere']), inKind(['nowhere', ...words])]).toEqual([1, 1, 0]);
  expect(values('x'.repeat(500))).toEqual([]);
});

describe('suggestions', () => {
  const tuning = completeTuning({ ...document, search: [...document.search!, { field: 'kind' }] });
  const generation = generationOf(records, tuning);
  const texts = (q: string, past: string[] = [], size = 8) =>
    suggest(generation, tuning, q, size, past).suggestions.map(({ kind, text }) => `${kind} ${text}`);

  test('come from past queries that find something, values and titles, each text once', () => {
    expect(texts('ag', ['agave sun', 'agapanthus'])).toEqual([
      'query agave sun',
      'record Agave americana',
      'record Aloe <b>vera</b> agave',
    ]);
    expect(texts('shr', [], 1)).toEqual(['value Shrubs']);
    expect(texts(' ')).toEqual([]);
  });

  test('a value goes before a query of the same words, and queries leave values their half', () => {
    expect(texts('shr', ['SHRUBS!', 'shrubs rose'], 2)).toEqual(['query shrubs rose', 'value Shrubs']);
    const past = ['agave sun', 'agave americana', 'agave vera'];
    expect(texts('ag', past, 2)).toEqual(['query agave sun', 'query agave americana']);
    expect(texts('s', ['sun agave', 'sun aloe', 'succulents agave', 'spring agave'], 3)).toEqual([
      'query sun agave',
      'query succulents agave',
      'value Succulents',
    ]);
  });

  test('what is typed of a query is marked to the letter, accents and spaces as they were asked', () => {
    const marked = (q: string, past: string) => {
      const [query] = suggest(generation, tuning, q, 1, [past]).suggestions;
      if (query?.kind === 'record') return undefined;
      return query?.ranges.map(([start, end]) => query.text.slice(start, end));
    };
    expect(marked('agave su', '  Aga\u0301ve,  Sun')).toEqual(['Aga\u0301ve,  Su']);
    expect(marked('aga', 'aga\u0301ve sun')).toEqual(['aga\u0301']);
    expect(marked('agave', 'agave')).toBeUndefined();
  });

  test.each([
    ['agave', true],
    ['Agave sun', true],
    ['agaves', true],
    ['agav', false],
    ['agave su', false],
    ['agvae', false],
    ['"agave sun"', false],
    ['agave -sun', false],
    ['agave zzz', false],
    ['', false],
  ])('“%s” is worth offering to others: %s', (q, worth) => {
    expect(isWorthOffering(generation, tuning, q)).toBe(worth);
  });

  test('under a forced filter a query is offered only when all of its words stand in what may be seen', () => {
    const any = completeTuning({ ...document, words: { require: 'any' } });
    const offered = (context: { forcedFilter?: string }) =>
      suggest(generation, any, 'ro', 8, ['rose agave', 'rose march'], context)
        .suggestions.filter(({ kind }) => kind === 'query')
        .map(({ text }) => text);
    expect(offered({})).toEqual(['rose agave', 'rose march']);
    expect(offered({ forcedFilter: "kind = 'Shrubs'" })).toEqual(['rose march']);
  });

  test('a synonym is a whole word, and what a forced filter hides finds nothing', () => {
    const others = completeTuning({ ...document, synonyms: [{ kind: 'same', words: ['agave', 'century plant'] }] });
    expect(isWorthOffering(generation, others, 'century plant')).toBe(true);
    expect(isWorthOffering(generation, tuning, 'agave sun', { forcedFilter: "kind = 'Shrubs'" })).toBe(false);
  });
});

test('completions from values follow the state of the collection and who asks, however often', () => {
  const tuning = completeTuning(document);
  const generation = generationOf(records, tuning);
  const counts = (state: typeof generation, forcedFilter?: string) =>
    suggest(state, tuning, 'shr', 8, [], forcedFilter === undefined ? {} : { forcedFilter }).suggestions.map(
      ({ text, count }) => `${text} ${count}`,
    );
  const whole = counts(generation);
  expect(whole).toHaveLength(1);
  expect(counts(generation)).toEqual(whole);
  expect(counts(generation, "kind <> 'Shrubs'")).toEqual([]);
  const within = (filter: string) => suggest(generation, tuning, 'shr', 8, ['shrubs for shade'], {}, filter);
  expect(within("kind <> 'Shrubs'").suggestions).toEqual([]);
  expect(within("kind = 'Shrubs'").suggestions.map(({ text, count }) => `${text} ${count}`)).toEqual(whole);
  expect(counts(generation)).toEqual(whole);
  const doubled = generationOf(
    [...records, ...records.map((record) => ({ ...record, id: `${String(record.id)}-2` }))],
    tuning,
  );
  expect(counts(doubled)).toEqual(whole.map((text) => text.replace(/\d+$/, (count) => String(2 * Number(count)))));
});

test('a forced filter hides records, and every word, value and count of what it hides', () => {
  const tuning = completeTuning(document);
  const generation = generationOf(records, tuning, [1]);
  const forced = { forcedFilter: "kind = 'Shrubs'" };
  const answer = search(generation, tuning, { q: 'aga', facets: ['*'], filter: "kind = 'Succulents'" }, forced);
  expect(answer).toMatchObject({ total: 0, results: [], understood: { words: [{ as: [], typo: false }] } });
  expect(JSON.stringify(answer.facets)).not.toMatch(/Succulents|Tidewell/);
  expect(suggest(generation, tuning, 'aga', 5, ['agave sun'], forced).suggestions).toEqual([]);
  expect(searchFacet(generation, tuning, {}, 'kind', '', 5, forced).values.map(({ value }) => value)).toEqual([
    'Shrubs',
  ]);
  const pinned = {
    ...tuning,
    placements: [
      { ...completeTuning({ placements: [{ name: 'p', when: {}, pin: [{ id: '1', at: 1 }] }] }).placements[0]! },
    ],
  };
  expect(search(generation, pinned, { q: '' }, forced).results.map(({ id }) => id)).toEqual(['3']);
});

test('keys by a condition, and words of the collection', () => {
  const tuning = completeTuning(document);
  const generation = generationOf(records, tuning, [1]);
  expect(keysWhere(generation, "kind = 'Succulents'")).toEqual(['1', '2']);
  expect(sampleWords(generation, 3)).toHaveLength(3);
  expect(sampleWords({ number: 1, segments: [] }, 3)).toEqual([]);
});

test('placements by dates, tags and choices; a search that nobody waits for stops', () => {
  const tuning = completeTuning({
    ...document,
    placements: [
      { name: 'spring', when: { query: 'rose', is: 'starts', from: '2026-03-01', to: '2026-05-31' }, notice: 'Spring' },
      { name: 'trade', when: { tags: ['trade'] }, redirect: '/trade' },
      { name: 'shrubs', when: { select: { kind: ['Shrubs'] } }, hide: ['3'] },
      { name: 'maguey', when: { query: 'maguey' }, replaceQuery: 'agave' },
    ],
  });
  const generation = generationOf(records, tuning);
  const on = (today: string, request: object) => search(generation, tuning, request, { today }).understood;
  expect(on('2026-05-31', { q: 'Rose red' })).toMatchObject({ placements: ['spring'], notice: 'Spring' });
  expect(on('2026-06-01', { q: 'rose' })).toMatchObject({ placements: [], notice: null });
  expect(on('2026-06-01', { tags: ['trade'] }).redirect).toBe('/trade');
  expect(search(generation, tuning, { select: { kind: ['Shrubs'] } }).total).toBe(0);
  expect(search(generation, tuning, { q: 'maguey' })).toMatchObject({ query: 'agave', total: 2 });
  expect(() => search(generation, tuning, { q: 'rose' }, { cancelled: () => true })).toThrow('the caller has gone');
});
