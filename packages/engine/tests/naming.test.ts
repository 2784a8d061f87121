/** What names records, what tells them apart, and what is proposed of it. */
import { completeTuning, type RecordJson, type Tuning } from '@yucca/contract';
import { search } from '../src/index.ts';
import { Profiler } from '../src/profile/index.ts';
import { evennessOf, facetWorth } from '../src/profile/facet-worth.ts';
import { isMadeKey } from '../src/text/made-key.ts';
import { guessCard, guessKey, KeyFinder } from '../src/understand/index.ts';
import { isCalledName } from '../src/understand/naming.ts';
import { generationOf } from './arbitraries.ts';

const PLANTS = ['Corn poppy', 'Meadow clary', 'Tree fern', 'Dog rose', 'Hart fern', 'Snake plant', 'Yarrow', 'Agave'];
const plant = (i: number): string => `${PLANTS[i % 8]!} ${String.fromCharCode(65 + Math.floor(i / 8))}`;
const many = (make: (i: number) => RecordJson): RecordJson[] => Array.from({ length: 80 }, (_, i) => make(i));
const profiled = (records: RecordJson[], key: string) => {
  const profiler = new Profiler(key);
  for (const record of records) profiler.add(record);
  const { fields } = profiler.finish();
  return (path: string) => fields.find((field) => field.path === path)!.proposal;
};

test.each([
  ['name', true],
  ['LongName', true],
  ['Airport Name', true],
  ['name.common', true],
  ['titles.en', false],
  ['label', true],
  ['Bezeichnung', true],
  ['rename', false],
  ['username', false],
  ['labels count', false],
])('%s is called a name: %s', (path, expected) => {
  expect(isCalledName(path)).toBe(expected);
});

test.each<[string, (i: number) => RecordJson, string, string]>([
  ['a long name', (i) => ({ code: `Q${i}`, LongName: plant(i), country: 'Orme' }), 'code', 'LongName'],
  ['a name that is the key', (i) => ({ name: plant(i), made: i }), 'name', 'name'],
  ['the common form', (i) => ({ id: i, name: { official: `The ${plant(i)}`, common: plant(i) } }), 'id', 'name.common'],
  ['a label beside an id', (i) => ({ id: `x${i}`, label: plant(i), group: 'Ferns' }), 'id', 'label'],
  ['values alone', (i) => ({ id: i, sort: 'Fern', word: plant(i), hex: `#${String(1000 + i)}` }), 'id', 'word'],
  ['the nearer one', (i) => ({ id: i, links: { title: `See ${plant(i)}` }, title: plant(i) }), 'id', 'title'],
])('the title of a card, and what weighs most: %s', (_, make, key, expected) => {
  const records = many(make);
  expect(guessCard(records, key).title).toBe(expected);
  expect(profiled(records, key)(expected).search).toMatchObject({ weight: 10 });
});

test('a few texts among numbers name nothing', () => {
  const records = many((i) => ({ id: i, made: i % 40 === 0 ? `c. ${1900 + i}` : 1900 + i, name: plant(i % 60) }));
  expect(guessCard(records, 'id').title).toBe('name');
});

test('ids, codes and addresses are no titles', () => {
  const records = many((i) => ({ id: i, hexcode: `1F6${i}0`, url: `https://quillbrook.example/${i}`, uuid: `${1000 + i}f3a9-0000-4000-8000-000000000000` })); // prettier-ignore
  expect(guessCard(records, 'id').title).toBeNull();
});

test('codes and years that people type are searched', () => {
  const letters = (i: number): string => String.fromCharCode(65 + (i % 26), 65 + Math.floor(i / 26), 75);
  const proposal = profiled(
    many((i) => ({ iata: letters(i), name: plant(i), number: `${300 + i}`, year: 1900 + i, sales: i * 7 })),
    'iata',
  );
  expect(proposal('iata').search).toMatchObject({ weight: 6 });
  expect(proposal('number').search).toMatchObject({ weight: 2 });
  expect(proposal('year').search).toMatchObject({ weight: 2 });
  expect(proposal('sales').search).toBeNull();
});

test('no facet or sort of ids and degrees', () => {
  const proposal = profiled(
    many((i) => ({ id: i, supplier_id: 5000 + i, lat: 47 + i / 9, lng: -18 - i / 9, price: i, kind: `k${i % 4}` })),
    'id',
  );
  for (const path of ['id', 'supplier_id', 'lat', 'lng'])
    expect([path, proposal(path).facet, proposal(path).sort]).toEqual([path, null, null]);
  expect([proposal('price').facet, proposal('kind').facet]).toMatchObject([{ kind: 'numbers' }, { kind: 'values' }]);
});

test('of very many facets the most useful are proposed first', () => {
  const records = many((i) => ({
    id: i,
    ...Object.fromEntries(Array.from({ length: 20 }, (_, n) => [`rare ${n}`, i < 76 ? 'usual' : `odd ${i % 2}`])),
    colour: ['red', 'white', 'blue', 'yellow'][i % 4],
    price: i,
  }));
  const proposal = profiled(records, 'id');
  expect(proposal('colour').facet!.further).toBeUndefined();
  expect(proposal('price').facet!.further).toBeUndefined();
  const proposed = Array.from({ length: 20 }, (_, n) => proposal(`rare ${n}`).facet!.further).filter((one) => !one);
  expect(proposed).toHaveLength(6);
});

test('a list is worth more the more records it reaches, the more evenly it parts them, and the shorter it is', () => {
  expect(facetWorth(1, 8, 1)).toBeGreaterThan(facetWorth(0.5, 8, 1));
  expect(facetWorth(1, 8, 1)).toBeGreaterThan(facetWorth(1, 8, 0.2));
  expect(facetWorth(1, 8, 1)).toBeGreaterThan(facetWorth(1, 2, 1));
  expect(facetWorth(1, 20, 1)).toBeGreaterThan(facetWorth(1, 300, 1));
  expect(facetWorth(1, 1, 1)).toBe(0);
  expect(evennessOf([5, 5, 5, 5], 20, 4)).toBeCloseTo(1);
  expect(evennessOf([97, 1, 1, 1], 100, 4)).toBeLessThan(0.2);
  expect(evennessOf([5, 5], 20, 4)).toBeCloseTo(1);
});

test('a key is called one, or names the records; never the first column for want of a better', () => {
  const key = (make: (i: number) => RecordJson) => guessKey(many(make)).field;
  expect(key((i) => ({ iso_a2: `Q${i}`, name: plant(i) }))).toBe('iso_a2');
  expect(key((i) => ({ name: plant(i), alpha3: `Q${i}` }))).toBe('alpha3');
  expect(key((i) => ({ text: plant(i), n: i % 3 }))).toBeNull();
  expect(key((i) => ({ made: i, name: plant(i) }))).toBe('name');
  expect(key((i) => ({ paid: `p${i}`, supplierId: `s${i}` }))).toBe('supplierId');
  expect(guessKey(many((i) => ({ text: plant(i) }))).reason).toContain(
    'No field is called a key; “text” does not repeat',
  );
});

test.each([
  ['q1Zs-9xKd_T4vB7e', true],
  ['q1Zs-9xKd_T4vB7e-2', true],
  ['OrangeLavender12', false],
  ['P-001', false],
  ['meadow-clary-2026', false],
  ['a16letterslongid', false],
])('%s was made of a content: %s', (key, expected) => {
  expect(isMadeKey(key)).toBe(expected);
});

test('a key made of a content is not searched, unless somebody names its field', () => {
  const records = [{ id: 'q1Zs-9xKd_T4vB7e', name: 'Tokio rose' }, { id: 'P-001', name: 'Agave' }]; // prettier-ignore
  const found = (q: string, tuning = completeTuning({ typos: { enabled: false } })) =>
    search(generationOf(records, tuning), tuning, { q }).results.map(({ id }) => id);
  expect(found('q1Zs')).toEqual([]);
  expect(found('P-001')).toEqual(['P-001']);
  expect(found('q1Zs', completeTuning({ search: [{ field: 'id' }], typos: { enabled: false } }))).toEqual([
    records[0]!.id,
  ]);
});

test('text fields past the most that are searched unasked are named in the answer', () => {
  const record = { id: '1', ...Object.fromEntries(Array.from({ length: 70 }, (_, i) => [`text ${i}`, `word${i}`])) };
  const ask = (tuning: Tuning) => search(generationOf([record], tuning), tuning, { q: 'word3' });
  expect(ask(completeTuning({})).understood.unsearched).toEqual(Array.from({ length: 11 }, (_, i) => `text ${59 + i}`));
  expect(ask(completeTuning({ search: [{ field: 'text 3' }] })).understood.unsearched).toBeUndefined();
});

test('a file of very many rows is looked at as far as its values can be remembered', () => {
  const finder = new KeyFinder(['sku', 'code', 'made'], 25_000);
  for (let i = 0; i < 30_000; i++) finder.add({ sku: i, code: i, made: i });
  expect(finder.facts().get('sku')!.records).toBe(10_000);
  expect(finder.guess(true)).toEqual({
    field: 'sku',
    reason: '“sku” is in every one of the first 10,000 records and never repeats.',
  });
});
