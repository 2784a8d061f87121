import { Readable } from 'node:stream';
import fc from 'fast-check';
import { readCsv } from '../src/server/records/parsers/csv';
import { readJsonArray } from '../src/server/records/parsers/json-array';
import { readJsonLines } from '../src/server/records/parsers/json-lines';
import type { Parser, Row } from '../src/server/records/parsers/parser';

/** Sends a text in pieces of the given sizes, over and over, so that letters and quotes are cut anywhere. */
async function read(parser: Parser, text: string, sizes: number[]): Promise<Row[]> {
  const bytes = Buffer.from(text);
  const pieces = function* (): Generator<Buffer> {
    for (let at = 0, i = 0; at < bytes.length; i++) {
      const size = sizes[i % sizes.length]!;
      yield bytes.subarray(at, at + size);
      at += size;
    }
  };
  const rows: Row[] = [];
  for await (const row of parser(Readable.from(pieces()))) rows.push(row);
  return rows;
}

const sizes = fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 5 });
const values = (rows: Row[]): unknown[] => rows.map((row) => ('value' in row ? row.value : row.error));

test('JSON Lines: however the bytes are cut, the rows are the same', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.jsonValue(), { maxLength: 8 }),
      sizes,
      fc.constantFrom('\n', '\r\n'),
      async (list, cut, end) => {
        const text = list.map((value) => JSON.stringify(value)).join(end);
        expect(JSON.stringify(values(await read(readJsonLines, text, cut)))).toBe(JSON.stringify(list));
      },
    ),
    { numRuns: 100 },
  );
});

test('a JSON array: however the bytes are cut, the rows are the same', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.dictionary(fc.string(), fc.jsonValue(), { maxKeys: 3 }), { maxLength: 6 }),
      sizes,
      fc.boolean(),
      async (list, cut, pretty) => {
        const text = JSON.stringify(list, null, pretty ? 2 : 0);
        const rows = await read(readJsonArray, text, cut);
        expect(values(rows)).toEqual(JSON.parse(text));
        expect(rows.map(({ line }) => line)).toEqual(list.map((_, i) => i + 1));
      },
    ),
    { numRuns: 100, examples: [[[JSON.parse('{"a": [{"__proto__": {"b": 1}, "constructor": 2}]}')], [1], false]] },
  );
});

test('a JSON array: a record over the limit is refused and the next one is read', async () => {
  const rows = await read(readJsonArray, `[{"id":1},{"a":"${'x'.repeat(5_000_000)}"},\n{"id":2}]`, [65_536]);
  expect(rows).toMatchObject([
    { line: 1, value: { id: 1 } },
    { line: 2, error: 'the record is longer than 4 MB' },
    { line: 3, value: { id: 2 } },
  ]);
});

// Carriage returns inside quotes are part of a cell; the names of columns are trimmed, so cells only are free.
const cell = fc.oneof(
  fc.constantFrom('', 'a', '"', ',', ';', 'two\nlines', ' x ', 'ä木💐', "'"),
  fc.string({ maxLength: 8 }),
);

test('CSV: cells of any content come out as they went in, empty ones left out', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 6 }),
      sizes,
      fc.constantFrom('\n', '\r\n'),
      async (rows, cut, end) => {
        const quote = (text: string): string => `"${text.replaceAll('"', '""')}"`;
        const text = ['k,a,b,c', ...rows.map((row, i) => [String(i), ...row].map(quote).join(','))].join(end);
        // The separator is read off the first piece, which holds the header in real inputs.
        const found = values(await read(readCsv, text, [Math.max(8, ...cut)]));
        const expected = rows.map((row, i) =>
          Object.fromEntries(
            [['k', String(i)], ...row.map((value, j) => ['abc'[j]!, value])].filter(([, value]) => value !== ''),
          ),
        );
        expect(found).toEqual(expected);
      },
    ),
    { numRuns: 150 },
  );
});

test('a line over the limit is refused and the next one is read', async () => {
  const rows = await read(readJsonLines, `{"a":"${'x'.repeat(5_000_000)}"}\n{"id":1}\n`, [65_536]);
  expect(rows).toMatchObject([
    { line: 1, error: 'the line is longer than 4 MB' },
    { line: 2, value: { id: 1 } },
  ]);
});

test('CSV: an unclosed quote ends a file with a sentence, and does not swallow it whatever its size', async () => {
  const rows: Row[] = [];
  const input = Readable.from([Buffer.from(`id,name\n0,whole\n1,"open\n${'2,x\n'.repeat(1_200_000)}`)]);
  await expect(
    (async () => {
      for await (const row of readCsv(input)) rows.push(row);
    })(),
  ).rejects.toMatchObject({ name: 'InputError', message: expect.stringContaining('is a quote not closed?') as string });
  expect(rows.map((row) => 'error' in row)).toEqual([false, true]);
});
