import {
  ArrayElements,
  guessCard,
  guessFacets,
  guessFormat,
  guessKey,
  sniffSeparator,
} from '../src/understand/index.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

test.each([
  ['[{"a":1}]', 'x.json', 'json'],
  ['  \n{"a":1}\n{"a":2}\n', 'x.txt', 'json-lines'],
  ['{"a":1}', 'x.json', 'json'],
  ['{"a":1}', 'x.jsonl', 'json-lines'],
  ['{\n  "a": 1\n}', 'x.json', 'json'],
  ['{\n  "a": 1', 'x.ndjson', 'json-lines'],
  ['\ufeffid,name\n1,a', 'x.csv', 'csv'],
  ['id;name\n1;a', 'export', 'csv'],
  ['id\tname\n1\ta', 'x.tsv', 'csv'],
  ['name\nrose', 'x.csv', 'csv'],
  ['Stock of May\nid;name\n1;a\n2;b', 'export', 'csv'],
  ['plants:\n - a', 'beds.yml', 'yaml'],
  ['---\nid: a\n', 'export', 'yaml'],
  ['<?xml version="1.0"?><a/>', 'export', 'xml'],
  ['<rss/>', 'news.rss', 'xml'],
  ['<!DOCTYPE html><p>', 'export', 'html'],
  ['# Hedges', 'hedges.md', 'markdown'],
  ['PAR1\u0000', 'export', 'parquet'],
  ['PK\u0003\u0004 xl/workbook.xml', 'export', 'xlsx'],
  ['PK\u0003\u0004 guides/a.md', 'guides.zip', 'pages'],
])('%j as %s is %s', (text, name, format) => {
  expect(guessFormat(bytes(text), name)).toMatchObject({ ok: true, format });
});

test.each([
  ['', 'empty'],
  ['   \n', 'white space'],
  ['\u0007\u0000\u0000', 'binary'],
  ['SQLite format 3\u0000', 'SQLite'],
  ['%PDF-1.7', 'PDF'],
  ['PK\u0003\u0004 mimetypeapplication/vnd.oasis.opendocument.spreadsheet', 'OpenDocument'],
  ['PK\u0003\u0004 word/document.xml', 'word processor'],
  ['BZh9', 'bzip2'],
  ['just a sentence', 'could not tell'],
  ['Dear gardener, the tulips are out.\nYours', 'could not tell'],
])('%j is refused: %s', (text, part) => {
  const guess = guessFormat(bytes(text), 'x');
  expect(guess.ok).toBe(false);
  expect(guess.reason).toContain(part);
});

test('gzip is named', () => {
  expect(guessFormat(new Uint8Array([0x1f, 0x8b, 8]), 'x.json').reason).toContain('gzip');
});

test('a separator inside quotes does not count', () => {
  expect(sniffSeparator('"a;b;c;d",e\n1,2')).toBe(',');
  expect(sniffSeparator('one\n1;2;3')).toBe(',');
});

test('the key: present everywhere, never twice, named like one', () => {
  expect(
    guessKey([
      { name: 'x', sku: 'A1' },
      { name: 'y', sku: 'A2' },
    ]).field,
  ).toBe('sku');
  expect(
    guessKey([
      { title: 'x', id: 1 },
      { title: 'y', id: 2 },
    ]),
  ).toMatchObject({ field: 'id' });
  expect(
    guessKey([
      { id: 1, n: 1 },
      { id: 1, n: 1 },
    ]),
  ).toEqual({ field: null, reason: '“id” cannot tell records apart: 1 stands in two records.' });
  expect(guessKey([{ id: 1, product_id: 5 }, { product_id: 6 }])).toMatchObject({ field: 'product_id' });
  expect(guessKey([{ price: 1.5 }, { price: 2.5 }]).field).toBeNull();
  expect(
    guessKey([
      { name: 'a', x: 1 },
      { name: 'b', x: 1 },
    ]).field,
  ).toBe('name');
  expect(guessKey([]).field).toBeNull();
});

const plants = Array.from({ length: 60 }, (_, i) => ({
  id: `P${i}`,
  checksum: 'ab12'.repeat(8),
  label: ['small', 'large'][i % 2],
  name: `Plant of the number ${i}`,
  url: `https://quillbrook.example/p/${i}`,
  image: `/files/p/${i}.svg`,
  description: 'A plant with a long text about how it grows and where it likes to stand.',
  stock: i,
  price: i + 0.99,
  added: '2026-05-01',
  colour: i % 3 === 0 ? ['red', 'white'] : ['blue'],
  safe: i % 2 === 0,
}));

test('a card: what names the record, its picture, text and number', () => {
  expect(guessCard(plants, 'id')).toEqual({
    title: 'name',
    picture: 'image',
    text: 'description',
    number: 'price',
    detail: 'label',
  });
  const places = Array.from({ length: 9 }, (_, i) => ({
    id: i,
    name: `Garden ${i}`,
    at: { coordinates: [i, 47 + i] },
  }));
  expect(guessCard(places, 'id').number).toBeNull();
  expect(guessCard([{ a: 1 }], 'a')).toEqual({ title: null, picture: null, text: null, number: null, detail: null });
});

test('facets: values that repeat, not keys, prose, dates, links or checksums', () => {
  expect(guessFacets(plants, 'id')).toEqual(['label', 'colour', 'safe']);
});

describe('the elements of a JSON array', () => {
  const elements = (...texts: string[]): { found: (string | null)[]; closed: boolean; readTo: number } => {
    const array = new ArrayElements(40);
    const found = texts.flatMap((text) => [...array.write(new TextEncoder().encode(text))]);
    return { found, closed: array.closed, readTo: array.readTo };
  };

  test('brackets, commas and quotes inside strings and below are passed over', () => {
    expect(elements(' [ {"a":"],}\\\\"} ,', '[[1],"\\""],\n7', ' ] ')).toEqual({
      found: [' {"a":"],}\\\\"} ', '[[1],"\\""]', '\n7 '],
      closed: true,
      readTo: 33,
    });
    expect(elements('[]')).toMatchObject({ found: [], closed: true });
    expect(elements('[ ]', ' \n')).toMatchObject({ found: [], closed: true });
  });

  test('an element that is cut off is not answered, and the array stays open', () => {
    expect(elements('[1,{"a":2}')).toEqual({ found: ['1'], closed: false, readTo: 3 });
    expect(elements('[1,"2]')).toMatchObject({ found: ['1'], closed: false });
    expect(elements('')).toMatchObject({ found: [], closed: false });
  });

  test('too long an element is named by its place, without its text', () => {
    expect(elements('["short",', `"${'x'.repeat(30)}`, `${'x'.repeat(30)}","next"]`).found).toEqual([
      '"short"',
      null,
      '"next"',
    ]);
  });

  test.each([
    ['[1,]', 'there is nothing after a comma'],
    ['[,1]', 'there is nothing before a comma'],
    ['[1,,2]', 'there is nothing before a comma'],
    ['{"a":1}', 'it does not begin with ['],
    ['[1] 2', 'something stands behind the end of the array'],
  ])('%s is refused: %s', (text, message) => {
    expect(() => elements(text)).toThrow(message);
  });
});
