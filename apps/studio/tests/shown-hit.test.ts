import type { Card, SearchResult } from '@yucca/contract';
import { freeName, inspectFile, nameFor } from '../src/features/load/inspect-file';
import { shownHit } from '../src/features/search-page/shown-hit';

const card: Card = { title: 'name', picture: 'images', text: 'care', number: 'price', detail: 'maker.name' };
const result = (record: SearchResult['record'], marks: SearchResult['marks'] = {}): SearchResult => ({
  id: 'P-1',
  record,
  marks,
  snippets: {},
});

test('a card shows the fields it was guessed to have, with their marks', () => {
  const hit = shownHit(
    result(
      { name: 'Red rose', images: ['/a.svg'], care: 'Sun', price: 3, maker: [{ name: 'Orme' }] },
      { '/name': [[4, 8]], '/maker/0/name': [[0, 4]] },
    ),
    card,
  );
  expect(hit).toEqual({
    id: 'P-1',
    title: { pointer: '/name', text: 'Red rose', ranges: [[4, 8]] },
    picture: '/a.svg',
    detail: { pointer: '/maker/0/name', text: 'Orme', ranges: [[0, 4]] },
    text: { pointer: '/care', text: 'Sun', ranges: [] },
    number: { label: 'Price', value: 3 },
    elsewhere: null,
  });
});

test('a match in a field that is not on the card is shown, so that nobody wonders', () => {
  const hit = shownHit(result({ name: 'Rose', tags: ['soft', 'thorny'] }, { '/tags/1': [[0, 6]] }), card);
  expect(hit.elsewhere).toEqual({ label: 'Tags', text: 'thorny', ranges: [[0, 6]] });
});

test('a record without any of the fields is called by its key', () => {
  expect(shownHit(result({ x: 1 }), card)).toMatchObject({
    title: { text: 'P-1' },
    picture: null,
    text: null,
    number: null,
  });
});

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
  expect(await inspectFile(new File([], 'x.json'))).toMatchObject({ ok: false });
});
