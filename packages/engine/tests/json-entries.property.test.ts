import { pointerToken } from '@yucca/contract';
import fc from 'fast-check';
import { halfJson, JsonEntries, recordOf, recordPointers, type JsonEntry } from '../src/understand/index.ts';

const encoder = new TextEncoder();
const isObject = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value);

/** Cuts a text that comes in pieces of some size. */
function cut(
  text: string,
  pointer: string,
  size: number,
  maxBytes = 1 << 20,
): { entries: JsonEntry[]; reader: JsonEntries } {
  const bytes = encoder.encode(text);
  const reader = new JsonEntries(pointer, maxBytes);
  const entries: JsonEntry[] = [];
  for (let at = 0; at < bytes.length; at += size) entries.push(...reader.write(bytes.slice(at, at + size)));
  return { entries, reader };
}

/** The same from the parsed document. */
type Whole = Omit<JsonEntry, 'text'> & { value: unknown };

function expected(value: unknown): Whole[] {
  if (Array.isArray(value)) return value.map((element: unknown) => ({ key: null, group: null, value: element }));
  return Object.entries(value as object).flatMap(([key, member]: [string, unknown]): Whole[] =>
    Array.isArray(member) && isObject(member[0])
      ? member.map((element: unknown) => ({ key: null, group: key, value: element }))
      : [{ key, group: null, value: member }],
  );
}

/** Every place of a document that a list or an object stands at. */
function places(value: unknown, pointer = ''): { pointer: string; value: unknown }[] {
  if (value === null || typeof value !== 'object') return [];
  const inner = Object.entries(value).flatMap(([name, member]: [string, unknown]) =>
    places(member, `${pointer}/${pointerToken(name)}`),
  );
  return [{ pointer, value }, ...inner];
}

const spaced = (value: unknown, indent: number): string => JSON.stringify(value, null, indent);

test('whatever a document is and however it comes, its entries are those of the parsed one', () => {
  fc.assert(
    fc.property(
      fc.json({ maxDepth: 4, noUnicodeString: false }),
      fc.integer({ min: 1, max: 9 }),
      fc.nat(3),
      fc.nat(),
      (json, size, indent, pick) => {
        const document: unknown = JSON.parse(json);
        const all = places(document);
        fc.pre(all.length > 0);
        const { pointer, value } = all[pick % all.length]!;
        const { entries, reader } = cut(spaced(document, indent), pointer, size);
        expect(reader.found && reader.closed).toBe(true);
        expect(entries.map(({ key, group, text }) => ({ key, group, value: JSON.parse(text!) as unknown }))).toEqual(
          expected(value),
        );
      },
    ),
    { numRuns: 400 * Number(process.env.YUCCA_PROPERTY_RUNS ?? 1) },
  );
});

test('a place that is not there is not found; one that breaks off is not closed; brackets that do not fit are an error', () => {
  expect(cut('{"a":[1]}', '/b', 3).reader.found).toBe(false);
  expect(cut('{"a":1}', '/a', 3).reader.found).toBe(false);
  const { entries, reader } = cut('{"a":[{"n":1},{"n":', '/a', 4);
  expect([entries.length, reader.found, reader.closed]).toEqual([1, true, false]);
  expect(() => cut('{"a":[1}', '/a', 8)).toThrow(SyntaxError);
  expect(() => cut('{1:2}', '', 8)).toThrow(SyntaxError);
  expect(() => cut(']', '', 8)).toThrow(SyntaxError);
});

test('an entry that is too long comes without its text, and the next ones come', () => {
  const { entries } = cut(`{"a":["${'x'.repeat(50)}","y"]}`, '/a', 7, 20);
  expect(entries.map(({ text }) => text)).toEqual([null, '"y"']);
});

describe('where the records are', () => {
  const first = (document: unknown) => recordPointers(document)[0];
  const plant = (n: number) => ({ id: n, name: `Fern ${n}` });
  test.each([
    [
      'a list under a name',
      { meta: { page: 1 }, data: [plant(1), plant(2)] },
      { pointer: '/data', records: 2, kind: 'list' },
    ],
    [
      'deeper down',
      { response: { docs: { items: [plant(1)] } } },
      { pointer: '/response/docs/items', records: 1, kind: 'list' },
    ],
    [
      'records by their keys',
      { AD: plant(1), AE: plant(2), AF: plant(3) },
      { pointer: '', records: 3, kind: 'entries' },
    ],
    ['lists of values by their keys', { a: ['x'], b: ['y', 'z'], c: [] }, { pointer: '', records: 3, kind: 'lists' }],
    ['groups', { Ferns: [plant(1), plant(2)], Herbs: [plant(3)] }, { pointer: '', records: 3, kind: 'groups' }],
    [
      'the larger of two lists',
      { tags: [{ label: 'x' }], plants: [plant(1), plant(2)] },
      { pointer: '/plants', records: 2, kind: 'list' },
    ],
  ] as const)('%s', (_, document, place) => expect(first(document)).toEqual(place));

  test('one record is one record', () => {
    expect(recordPointers(plant(1))).toEqual([]);
    expect(recordPointers({ id: 'P-1', size: { cm: 3 }, maker: { name: 'Orme' }, tags: ['a'] })).toEqual([]);
    expect(recordPointers('text')).toEqual([]);
  });
});

describe('what becomes of an entry', () => {
  test('the key and the group become fields, beside those there are', () => {
    expect(recordOf({ name: 'Andorra' }, 'AD', null)).toEqual({ key: 'AD', name: 'Andorra' });
    expect(recordOf({ key: 1 }, 'AD', null)).toEqual({ entryKey: 'AD', key: 1 });
    expect(recordOf(['x', 'y'], 'a', null)).toEqual({ key: 'a', values: ['x', 'y'] });
    expect(recordOf('x', 'a', null)).toEqual({ key: 'a', value: 'x' });
    expect(recordOf({ name: 'Fern' }, null, 'Ferns')).toEqual({ name: 'Fern', group: 'Ferns' });
    expect(recordOf({ group: 1 }, null, 'Ferns')).toEqual({ group: 1, inGroup: 'Ferns' });
    expect(recordOf(7, null, null)).toBe(7);
  });

  test('a feature of GeoJSON gives its properties and its position', () => {
    const feature = (geometry: unknown) => ({ type: 'Feature', id: 4, properties: { name: 'Orme' }, geometry });
    expect(recordOf(feature({ type: 'Point', coordinates: [-3.86, 53.33, 12] }), null, null)).toEqual({ id: 4, name: 'Orme', position: { lat: 53.33, lng: -3.86 } }); // prettier-ignore
    const square = { type: 'Polygon', coordinates: [[[0, 10], [4, 10], [4, 20], [0, 20], [0, 10]]] }; // prettier-ignore
    expect(recordOf(feature(square), null, null)).toMatchObject({ position: { lat: 15, lng: 2 } });
    expect(recordOf(feature(null), null, null)).toEqual({ id: 4, name: 'Orme' });
    expect(recordOf(feature({ type: 'Point', coordinates: [500, 100] }), null, null)).toEqual({ id: 4, name: 'Orme' });
  });
});

test('of the beginning of a document the shape is told', () => {
  const text = JSON.stringify({
    meta: { a: 1 },
    rows: Array.from({ length: 40 }, (_, n) => ({ n, text: 'a "quoted" {word}' })),
  });
  for (let length = 60; length < text.length; length += 17)
    expect(recordPointers(halfJson(text.slice(0, length)))[0]).toMatchObject({ pointer: '/rows', kind: 'list' });
  expect(halfJson('{"a')).toBeUndefined();
});
