import { Readable } from 'node:stream';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { readCsv } from '../src/server/records/parsers/csv';
import { readJson } from '../src/server/records/parsers/json-document';
import type { Row } from '../src/server/records/parsers/parser';
import { freeName, inspectFile, nameFor } from '../src/inspect/inspect-file';

test('collection names are made from file names', () => {
  expect(['My Plants (2).csv', 'Ünïcode.json', '2024-05.jsonl', '.json', 'a'.repeat(80)].map(nameFor)).toEqual([
    'my-plants-2',
    'unicode',
    'records',
    'records',
    'a'.repeat(50),
  ]);
  expect(freeName('plants', new Set(['plants', 'plants-2']))).toBe('plants-3');
});

test('a file is understood from its beginning', async () => {
  const csv = new File(['sku,name\nA,"Rose, red"\nB,Fern\n'], 'Stock list.csv');
  expect(await inspectFile(csv)).toMatchObject({
    ok: true,
    format: 'csv',
    rows: 2,
    rowsExact: true,
    name: 'stock-list',
    key: { field: 'sku' },
    sample: [
      { sku: 'A', name: 'Rose, red' },
      { sku: 'B', name: 'Fern' },
    ],
  });
  const list = new File([`[${Array.from({ length: 900 }, (_, i) => `{"id":${i}}`).join(',')}]`], 'x.json');
  expect(await inspectFile(list)).toMatchObject({ ok: true, format: 'json', key: { field: 'id' } });
  const lines = Array.from({ length: 40_000 }, (_, i) => `{"id":${i},"text":"${'x'.repeat(30)}"}`).join('\n');
  const long = await inspectFile(new File([lines], 'long.jsonl'));
  expect(long).toMatchObject({ ok: true, rowsExact: false });
  expect(Math.abs((long as { rows: number }).rows - 40_000)).toBeLessThan(6_000);
  expect(await inspectFile(new File(['id,name\n'], 'x.csv'))).toMatchObject({ ok: false });
  expect(await inspectFile(new File(['[1,2,3]'], 'x.json'))).toMatchObject({ ok: false });
  const array = `[\n${lines.replaceAll('\n', ',\n')}\n]`;
  const longArray = await inspectFile(new File([array], 'long.json'));
  expect(longArray).toMatchObject({ ok: true, format: 'json', rowsExact: false });
  expect(Math.abs((longArray as { rows: number }).rows - 40_000)).toBeLessThan(6_000);
  const broken = new File(['[{"id":1,"name":"Rose"},{"id":2,"name":"Fern"},{"id" 3}]'], 'x.json');
  expect(await inspectFile(broken)).toMatchObject({ ok: true, sample: [{ id: 1 }, { id: 2 }] });
  expect(await inspectFile(new File([], 'x.json'))).toMatchObject({ ok: false });
});

test('columns of a CSV have the names in the preview that they have once they are loaded', async () => {
  const text = 'id,name,name,,name 2\n1,a,b,c,d\n';
  const seen = await inspectFile(new File([text], 'x.csv'));
  const rows: Row[] = [];
  for await (const row of readCsv(Readable.from([Buffer.from(text)]))) rows.push(row);
  const loaded = rows.map((row) => ('value' in row ? row.value : null));
  expect(loaded).toEqual([{ id: '1', name: 'a', 'name 2': 'b', 'column 4': 'c', 'name 2 2': 'd' }]);
  expect(seen).toMatchObject({ ok: true, sample: loaded });
});

const FILES = path.join(__dirname, '../../../e2e/fixtures/files');
const EXPECTED = JSON.parse(readFileSync(path.join(FILES, 'expected.json'), 'utf8')) as Record<
  string,
  { at: string | null; key: string; records: object[]; rules?: object[] }
>;

test('rows of nothing but separators are no records', async () => {
  const text = 'id,name\n1,Fern\n,\n , \n2,Rose\n,,\n';
  const rows: Row[] = [];
  for await (const row of readCsv(Readable.from([Buffer.from(text)]))) rows.push(row);
  const loaded = rows.filter((row) => 'value' in row).map((row) => ('value' in row ? row.value : null));
  const ferns = [
    { id: '1', name: 'Fern' },
    { id: '2', name: 'Rose' },
  ];
  expect(loaded).toEqual(ferns);
  expect(await inspectFile(new File([text], 'x.csv'))).toMatchObject({ ok: true, sample: ferns });
});

describe('records inside JSON documents', () => {
  test.each(Object.entries(EXPECTED).filter(([name, { rules }]) => /json$/.test(name) && rules === undefined))(
    '%s: the preview proposes what the server loads',
    async (name, wanted) => {
      const text = readFileSync(path.join(FILES, name), 'utf8');
      const seen = await inspectFile(new File([text], name));
      const { at, records, key } = wanted;
      expect(seen).toMatchObject({ ok: true, at, rows: records.length, sample: records, key: { field: key } });
      for (const place of [at, 'auto'])
        for (const size of [7, 100_000]) {
          const bytes = Buffer.from(text);
          const pieces = Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
            bytes.subarray(i * size, (i + 1) * size),
          );
          const rows: Row[] = [];
          for await (const row of readJson(Readable.from(pieces), { at: place })) rows.push(row);
          expect(rows.map((row) => ('value' in row ? row.value : row.error))).toEqual(records);
        }
    },
  );

  test('another place can be taken, or the whole document as one record', async () => {
    const file = new File([readFileSync(path.join(FILES, 'plants-by-group.json'))], 'plants.json');
    expect(await inspectFile(file, { at: '/Ferns' })).toMatchObject({
      at: '/Ferns',
      rows: 2,
      sample: [{ id: 'f1' }, { id: 'f2' }],
    });
    expect(await inspectFile(file, { at: null })).toMatchObject({
      at: null,
      rows: 1,
      sample: [{ Herbs: [{ id: 'h1' }] }],
    });
    const found = await inspectFile(file);
    expect(found.ok && found.places.map(({ pointer }) => pointer)).toEqual(['', '/Ferns', '/Herbs']);
  });

  test('records far behind the beginning of a long document', async () => {
    const filler = Array.from({ length: 20_000 }, (_, i) => `note ${i} ${'x'.repeat(40)}`);
    const rows = Array.from({ length: 30_000 }, (_, i) => ({ id: i, name: `Fern ${i}` }));
    const seen = await inspectFile(new File([JSON.stringify({ filler, rows })], 'long.json'));
    expect(seen).toMatchObject({ ok: true, at: '/rows', sample: expect.arrayContaining([rows[0]]) as unknown });
  });

  test('what is not there, or breaks off, is said', async () => {
    const read = async (text: string, at: string): Promise<number> => {
      let rows = 0;
      for await (const row of readJson(Readable.from([Buffer.from(text)]), { at })) rows += 'value' in row ? 1 : 0;
      return rows;
    };
    await expect(read('{"a":[]}', '/b')).rejects.toThrow('no list and no object at “/b”');
    await expect(read('{"a":[{"n":1},', '/a')).rejects.toThrow('“/a” is not closed; 1 records were read');
    await expect(read('{"a":[{"n":1}}', '/a')).rejects.toThrow('breaks off after 1 records');
    expect(await read('{"a":[{"n":1},2]}', '/a')).toBe(2);
    expect(await read('\ufeff[{"n":1}]', 'auto')).toBe(1);
  });
});
