import { Readable } from 'node:stream';
import { readCsv } from '../src/server/records/parsers/csv';
import type { Row } from '../src/server/records/parsers/parser';
import { freeName, inspectFile, nameFor } from '../src/features/load/inspect-file';

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
