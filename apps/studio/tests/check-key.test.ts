/** The key of every row of a file, not of its beginning. */
import { checkKeys } from '../src/features/load/check-key';
import { inspectFile, type Inspection } from '../src/inspect/inspect-file';
import { keyNote } from '../src/features/load/load-notes';

const rows = Array.from({ length: 30_000 }, (_, i) => ({
  // Repeats only far behind what the preview reads.
  sku: `Q-${i < 20_000 ? i : i - 20_000}`,
  code: `C${i}`,
  name: `Plant, number ${i}`,
  note: '"quoted"\n' + 'words of a note '.repeat(3),
}));
const cell = (text: string): string => `"${text.replaceAll('"', '""')}"`;
const table = (separator: string): string =>
  ['sku,code,name,note'.replaceAll(',', separator), ...rows.map((row) => Object.values(row).map(cell).join(separator))].join('\n'); // prettier-ignore

const FILES: [string, () => BlobPart][] = [
  ['plants.csv', () => table(',')],
  ['titled.csv', () => `Stock of May\n\n${table(';')}`],
  ['plants.jsonl', () => rows.map((row) => JSON.stringify(row)).join('\n')],
  ['plants.json', () => JSON.stringify(rows)],
  ['inside.json', () => JSON.stringify({ made: 'in May', plants: rows })],
  ['utf-16.csv', () => new Uint8Array(Buffer.from(`\ufeff${table('\t')}`, 'utf16le'))],
];

const understood = async (file: File): Promise<Extract<Inspection, { ok: true }>> => {
  const inspection = await inspectFile(file);
  if (!inspection.ok) throw new Error(inspection.reason);
  return inspection;
};

test.each(FILES)('%s: a key that repeats behind the beginning is found out', async (name, content) => {
  const file = new File([content()], name);
  const inspection = await understood(file);
  // Of a document the beginning is eight megabytes: all of this one.
  expect(inspection.key.field).toBe(name === 'inside.json' ? 'code' : 'sku');
  expect(inspection.isWhole).toBe(name === 'inside.json');
  const shares: number[] = [];
  const check = await checkKeys(file, inspection, ['sku', 'code', 'gone'], (share) => shares.push(share));
  expect(check.guess.field).toBe('code');
  expect(check.facts.get('sku')).toEqual({ records: 30_000, missing: 0, repeated: 10_000 });
  expect(check.facts.get('gone')!.missing).toBe(30_000);
  const note = (key: string): string => keyNote(key, inspection, undefined, { check });
  expect(note('code')).toBe('“code” is in every one of the 30,000 records and never repeats.');
  expect(note('sku')).toBe('10,000 rows of 30,000 rows repeat a value: of rows with one key the last is kept, so 20,000 records would be left.'); // prettier-ignore
});

test('a packed file is unpacked for it', async () => {
  const { gzipSync } = await import('node:zlib');
  const file = new File([new Uint8Array(gzipSync(table(',')))], 'plants.csv.gz');
  const inspection = await understood(file);
  const { facts } = await checkKeys(file, inspection, ['sku'], () => {});
  expect(facts.get('sku')).toEqual({ records: 30_000, missing: 0, repeated: 10_000 });
});

test('all rows of a small file are looked at at once', async () => {
  const lines = ['id,code', ...Array.from({ length: 800 }, (_, i) => `${i === 700 ? 3 : i},C${i}`)];
  const inspection = await understood(new File([lines.join('\n')], 'small.csv'));
  expect(inspection.key).toEqual({
    field: 'code',
    reason: '“code” is in every one of the 800 records and never repeats (“id” is not: "3" stands in two records).',
  });
  expect(keyNote('id', inspection, undefined, null)).toContain('1 row of 800 rows repeats a value');
});
