/** Formats that become JSON as a whole. */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { asJson, WHOLE_READERS } from '../src/formats/whole-formats';

const FILES = path.join(__dirname, '../../../e2e/fixtures/files');
const TYPES = Object.keys(WHOLE_READERS);
const [YAML, XML, XLSX, PARQUET, MARKDOWN, HTML, ZIP] = TYPES as [
  string,
  string,
  string,
  string,
  string,
  string,
  string,
];
const read = async (type: string, content: string | Uint8Array, charset: string | null = null): Promise<unknown> => {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content;
  return JSON.parse(new TextDecoder().decode((await asJson(bytes, type, charset)).json)) as unknown;
};
const file = (name: string): Uint8Array => new Uint8Array(readFileSync(path.join(FILES, name)));

test('a workbook: titles above the header are left out, dates and numbers stay what they are', async () => {
  expect(await read(XLSX, file('stock.xlsx'))).toEqual([
    { sku: 'Q-1', name: 'Corn poppy', price: 3.5, offer: true, added: '2026-05-01' },
    { sku: 'Q-2', name: 'Tree fern', price: 24, offer: false, added: '2026-06-01' },
    { sku: 'Q-3', name: 'Yarrow', price: 4, offer: false, added: '2026-05-08' },
  ]);
  expect(Object.keys((await read(XLSX, file('two-sheets.xlsx'))) as object)).toEqual(['Plants', 'Gardens']);
});

test('Parquet: texts, numbers, moments', async () => {
  expect(await read(PARQUET, file('visits.parquet'))).toEqual([
    { id: 'v1', garden: 'Orme', visitors: 12, day: '2026-05-01', guided: true },
    { id: 'v2', garden: 'Vane', visitors: 7, day: '2026-05-02', guided: false },
    { id: 'v3', garden: 'Orme', visitors: 30, day: '2026-05-03T10:30:00.000Z', guided: true },
  ]);
});

test('of Parquet only the rows that are wanted are read, and all are counted', async () => {
  const { json, rows } = await asJson(file('visits.parquet'), PARQUET, null, 2);
  expect([(JSON.parse(new TextDecoder().decode(json)) as object[]).length, rows]).toEqual([2, 3]);
});

test('pages: front matter, title, headings, text', async () => {
  const [ferns, planting] = (await read(ZIP, file('guides.zip'))) as object[];
  expect(ferns).toEqual({
    path: 'guides/ferns.html',
    title: 'Ferns indoors',
    description: 'How to keep ferns.',
    headings: ['Ferns'],
    text: 'Ferns Keep them moist.',
  });
  expect(planting).toEqual({
    path: 'guides/planting.md',
    title: 'Planting a hedge',
    headings: ['Planting a hedge', 'Soil'],
    text: 'Planting a hedge Dig a trench before the rain. Soil Loam is best.',
    author: 'Ida Vane',
    tags: ['soil', 'spring'],
  });
  expect(await read(MARKDOWN, '# One\n\nTwo')).toEqual([{ title: 'One', headings: ['One'], text: 'One Two' }]);
  expect(await read(HTML, '<html><p>Only <b>text</b>')).toEqual([{ text: 'Only text' }]);
  expect(await read(MARKDOWN, '---\n: [broken\n---\nText')).toMatchObject([{ text: 'Text' }]);
});

test('YAML: one document, or several as a list', async () => {
  expect(await read(YAML, 'plants:\n  - id: a\n    n: 1\n  - id: b\n')).toEqual({ plants: [{ id: 'a', n: 1 }, { id: 'b' }] }); // prettier-ignore
  expect(await read(YAML, 'id: a\n---\nid: b\n')).toEqual([{ id: 'a' }, { id: 'b' }]);
});

test('XML: the repeated element is a list, attributes stand beside, values stay text', async () => {
  const feed =
    '<?xml version="1.0"?><rss><channel><title>News</title><item id="1"><title>A &amp; B</title><n>007</n></item><item id="2"><title>C</title></item></channel></rss>';
  expect(await read(XML, feed)).toEqual({
    rss: { channel: { title: 'News', item: [{ id: '1', title: 'A & B', n: '007' }, { id: '2', title: 'C' }] } },
  }); // prettier-ignore
});

test('a text is read in what it is written in', async () => {
  const bytes = new Uint8Array([...'name: K'].map((letter) => letter.charCodeAt(0)).concat(0xfc, 0x63, 0x68, 0x65));
  expect(await read(YAML, bytes)).toEqual({ name: 'Küche' });
});

test.each<[string, string, Uint8Array | string, RegExp]>([
  ['broken YAML', YAML!, 'a: [1,', /could not be read as YAML/],
  [
    'YAML that grows',
    YAML!,
    `a: &a [1]\n${'b: [*a,*a]\n'.repeat(1)}c: &c [${'*a,'.repeat(200)}]\nd: [${'*c,'.repeat(200)}]`,
    /YAML/,
  ],
  ['broken XML', XML!, '<a><b></a>', /could not be read as XML: line 1/],
  ['a file cut off', XLSX!, file('stock.xlsx').slice(0, 900), /could not be read as Excel/],
  ['Parquet cut off', PARQUET!, file('visits.parquet').slice(0, 50), /could not be read as Parquet/],
  ['an archive without pages', ZIP!, file('stock.xlsx'), /holds no page/],
  ['too much of it', YAML!, new Uint8Array(64 * 1024 * 1024 + 1), /up to 64 MB/],
])('%s is refused in a sentence', async (_, type, content, sentence) => {
  await expect(read(type, content)).rejects.toThrow(sentence);
});
