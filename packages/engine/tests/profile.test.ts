import fc from 'fast-check';
import type { FieldProfile, Profile, RecordJson } from '@yucca/contract';
import { Profiler } from '../src/profile/index.ts';
import { DistinctCounter, EXACT_VALUES } from '../src/profile/distinct.ts';
import { Spread } from '../src/profile/spread.ts';

function profileOf(records: readonly RecordJson[], key = 'id'): Profile & { field: (path: string) => FieldProfile } {
  const profiler = new Profiler(key);
  for (const record of records) profiler.add(record);
  const profile = profiler.finish();
  return { ...profile, field: (path) => profile.fields.find((one) => one.path === path)! };
}

/** Records as they come out of JSON: what is undefined is not there. */
const many = (count: number, make: (i: number) => RecordJson): RecordJson[] =>
  Array.from({ length: count }, (_, i) => JSON.parse(JSON.stringify({ id: `r${i}`, ...make(i) })) as RecordJson);

const codes = ({ warnings }: FieldProfile): string[] => warnings.map(({ code }) => code);

test('types, missing values, lists and ranges are counted', () => {
  const { field, records } = profileOf([
    { id: 'a', n: 3, tags: ['x', 'y'], makers: [{ id: 1 }, { id: 2 }] },
    { id: 'b', n: 'four', tags: [], none: null },
    { id: 'c', n: -1.5, tags: ['x'], empty: '' },
  ]);
  expect(records).toBe(3);
  expect(field('n')).toMatchObject({
    types: { number: 2, string: 1 },
    records: 3,
    missing: 0,
    distinct: 3,
    numbers: { min: -1.5, max: 3, mean: 0.75 },
  });
  expect(field('tags')).toMatchObject({ types: { string: 3 }, records: 2, missing: 1, lists: 2, most: 2, distinct: 2 });
  expect(field('makers.id')).toMatchObject({ types: { number: 2 }, records: 1, missing: 2 });
  expect(field('none')).toMatchObject({ types: { null: 1 }, records: 0, missing: 3 });
  expect(field('empty')).toMatchObject({ records: 0, missing: 3, distinct: 0 });
});

test('counts agree with counting by hand, on any records', () => {
  const value = fc.oneof(fc.string({ maxLength: 3 }), fc.integer({ min: -5, max: 5 }), fc.boolean(), fc.constant(null));
  const record = fc.dictionary(
    fc.constantFrom('a', 'b', '__proto__', 'constructor'),
    fc.oneof(value, fc.array(value, { maxLength: 3 })),
  );
  fc.assert(
    fc.property(fc.array(record, { maxLength: 30 }), (list) => {
      const { fields } = profileOf(list as RecordJson[]);
      for (const { path, ...profile } of fields) {
        const held = list.map((one) =>
          [Object.hasOwn(one, path) ? (one as RecordJson)[path] : undefined]
            .flat()
            .filter((item) => item !== undefined && item !== null && item !== ''),
        );
        const all = held.flat();
        expect(profile.records).toBe(held.filter((items) => items.length > 0).length);
        expect(profile.records + profile.missing).toBe(list.length);
        expect(profile.distinct).toBe(
          new Set(all.map((item) => (typeof item === 'boolean' ? String(item) : item))).size,
        );
        expect(profile.most).toBe(Math.max(0, ...held.map((items) => items.length)));
        const numbers = all.filter((item): item is number => typeof item === 'number');
        expect(profile.numbers?.max ?? null).toBe(numbers.length > 0 ? Math.max(...numbers) : null);
        if (numbers.length > 0)
          expect(profile.spread!.counts.reduce((sum, count) => sum + count, 0)).toBe(numbers.length);
      }
    }),
  );
});

test('distinct values are exact to 10,000 and within 5% above', () => {
  const counter = new DistinctCounter();
  for (let i = 0; i < EXACT_VALUES; i++) counter.add(`v${i}`);
  counter.add('v5');
  expect([counter.exact, counter.size, counter.top(1)]).toEqual([true, EXACT_VALUES, [{ value: 'v5', count: 2 }]]);
  for (let i = 0; i < 200_000; i++) counter.add(`w${i}`);
  for (let i = 0; i < 200_000; i++) counter.add(`w${i}`);
  expect(counter.exact).toBe(false);
  expect(Math.abs(counter.size - 210_000)).toBeLessThan(10_500);
  const numbers = new DistinctCounter();
  for (let i = 0; i < 60_000; i++) numbers.add(i / 7);
  expect(Math.abs(numbers.size - 60_000)).toBeLessThan(3_000);
});

test('bins hold every number once, wherever it falls', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e12, max: 1e12 }), {
        minLength: 1,
        maxLength: 60,
      }),
      (list) => {
        const spread = new Spread();
        list.forEach((value) => spread.add(value));
        const { from, width, counts } = spread.bins()!;
        expect(counts.length).toBeLessThanOrEqual(24);
        counts.forEach((count, i) => {
          const [low, high] = [from + i * width, from + (i + 1) * width];
          expect(count).toBe(list.filter((value) => value >= low && value < high).length);
        });
      },
    ),
  );
});

describe('warnings', () => {
  test.each<[string, (i: number) => unknown, string, object?]>([
    ['numbers beside texts', (i) => (i % 20 === 0 ? `${i}*` : i), 'mixed-types', { as: 'number' }],
    ['numbers as text', (i) => `${i}.5`, 'looks-like-number', { as: 'number' }],
    ['amounts as text', (i) => `$${i},000.50`, 'looks-like-number', { as: 'number', unit: '$' }],
    ['days as text', (i) => `${(i % 12) + 1}/${(i % 28) + 1}/98`, 'looks-like-date', { as: 'date', format: 'M/d/yy' }],
    ['yes and no', (i) => (i % 2 ? 'yes' : 'no'), 'looks-like-boolean', { as: 'boolean' }],
    ['dates of the country', (i) => `${(i % 28) + 1}.5.2026`, 'looks-like-date', { as: 'date' }],
    [
      'lists in a text',
      (i) => ['a; b', 'b; c', 'a', 'c; a; b'][i % 4],
      'looks-like-list',
      { as: 'list', separator: ';' },
    ],
    ['JSON in a text', (i) => `{"n":${i}}`, 'looks-like-json', { as: 'json' }],
    ['HTML', (i) => `<p class="x">Text ${i}</p>`, 'looks-like-html'],
    ['addresses', (i) => `https://quillbrook.example/p/${i}`, 'looks-like-url'],
    ['checksums', (i) => `${i}f3a9c${i}`.padEnd(40, '0a1b'), 'looks-like-hash'],
    ['positions as text', (i) => `51.5${100 + i}, -0.12${i}`, 'looks-like-coordinates', { as: 'position', order: 'lat-first' }], // prettier-ignore
    ['spaces', (i) => (i % 10 ? 'red' : 'red '), 'odd-spaces'],
    ['one value', () => 'yes!', 'almost-constant'],
    ['mostly missing', (i) => (i % 10 ? undefined : i), 'mostly-missing'],
  ])('%s', (...[, make, code, repair]) => {
    const { field } = profileOf(many(100, (i) => ({ f: make(i) })));
    expect(codes(field('f'))).toContain(code);
    const warning = field('f').warnings.find((one) => one.code === code)!;
    expect(warning.repair).toEqual(repair && { field: 'f', ...repair });
    expect(warning.detail.length).toBeGreaterThan(20);
  });

  test('a latitude beside a longitude is half of a position', () => {
    const { field } = profileOf(
      many(50, (i) => ({ garden: { lat_deg: 47 + i / 100, lng_deg: -18 - i / 10 }, sales: i })),
    );
    expect(field('garden.lat_deg').warnings.map(({ repair }) => repair)).toEqual([
      { field: 'garden position', as: 'position', from: ['garden.lat_deg', 'garden.lng_deg'] },
    ]);
    const known = profileOf(
      many(50, (i) => ({ lat: 47, lng: -18 - i / 10, position: { lat: 47, lng: -18 - i / 10 } })),
    );
    expect(codes(known.field('lat'))).not.toContain('looks-like-coordinates');
  });

  test('the unit of a rule is part of the label of its facet', () => {
    const profiler = new Profiler('id', [{ field: 'height_cm', as: 'number', unit: 'cm' }]);
    for (let i = 0; i < 60; i++) profiler.add({ id: i, height_cm: i * 3 });
    const { proposal } = profiler.finish().fields.find(({ path }) => path === 'height_cm')!;
    expect(proposal.facet).toMatchObject({ kind: 'numbers', label: 'Height cm (cm)' });
  });

  test('clean data gives none', () => {
    const { fields, warnings } = profileOf(
      many(100, (i) => ({
        name: `Plant number ${i}`,
        price: i,
        added: `2026-05-${10 + (i % 20)}`,
        tags: ['a', 'b'],
        address: `${i} High Street, Thornwick`,
      })),
    );
    expect([...fields.flatMap((one) => one.warnings), ...warnings]).toEqual([]);
  });

  test('names that are data are told and not followed without end', () => {
    const { fields, fieldsLeftOut, warnings } = profileOf(many(900, (i) => ({ [`k${i}`]: 1 })));
    expect(fields.length).toBe(500);
    expect(fieldsLeftOut).toBe(401);
    expect(warnings.map(({ code }) => code)).toEqual(['names-are-data']);
  });
});

describe('proposals', () => {
  const { field } = profileOf(
    many(200, (i) => ({
      name: `Dog rose number ${i}`,
      kind: ['tree', 'shrub', 'fern'][i % 3],
      path: ['Outdoor > Shrubs', 'Outdoor > Trees', 'Indoor > Ferns'][i % 3],
      about: 'It grows well in any soil and asks for water only in the driest weeks of the summer. '.repeat(3) + i,
      price: 3 + i / 4,
      sales: 2 ** (i / 10),
      added: `2026-0${1 + (i % 9)}-1${i % 9}`,
      checksum: `${i}f3a9c${i}`.padEnd(40, '0a1b'),
      place: { type: 'Point', coordinates: [i / 10 + 0.5, 51 + i / 100] },
      makers: [{ id: `m${i % 5}`, name: `Maker ${i % 5}` }],
      months: [3, 4],
    })),
  );

  test.each<[string, object]>([
    ['name', { search: { weight: 10 }, facet: null }],
    ['kind', { search: { weight: 3 }, facet: { kind: 'values' } }],
    ['path', { facet: { kind: 'tree', separator: ' > ' } }],
    ['about', { search: { weight: 1 }, snippet: {}, facet: null }],
    ['price', { search: null, facet: { kind: 'numbers' }, sort: {}, signal: null }],
    ['sales', { signal: { shape: 'log' } }],
    ['added', { facet: { kind: 'dates' }, sort: {}, search: null }],
    ['checksum', { search: null, facet: null, show: { shown: false } }],
    ['place', { geo: {} }],
    ['makers.id', { search: null, facet: { kind: 'values', labelField: 'makers.name' } }],
    ['makers.name', { facet: null }],
    ['months', { geo: null }],
  ])('%s', (path, expected) => {
    expect(field(path).proposal).toMatchObject(expected);
  });

  test('what lies inside a position is no field of its own', () => {
    expect(field('place.coordinates')).toBeUndefined();
    expect(field('place').types).toEqual({ object: 200 });
  });
});
