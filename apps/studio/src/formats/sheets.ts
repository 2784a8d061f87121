import type { RecordJson } from '@yucca/contract';
import { nameColumns } from '@yucca/engine/understand';
import { requireUnpackable } from './archive';
import { dateText } from './parquet';

type Cell = string | number | boolean | Date | null;

/** Rows in which a header is looked for. */
const LOOKED_AT = 30;
/** The share of the fullest row's cells that a header fills; titles above it fill one or two. */
const FULL = 0.6;

/**
 * The sheets of an Excel file (.xlsx, ECMA-376): the rows of one, or a list of rows by the name of each sheet. The
 * first full row names the columns.
 */
export async function readSheets(bytes: Uint8Array): Promise<unknown> {
  await requireUnpackable(bytes);
  const { default: readExcelFile } = await import('read-excel-file/universal');
  const sheets = (await readExcelFile(bytes.slice().buffer)) as { sheet: string; data: Cell[][] }[];
  const tables = sheets
    .map(({ sheet, data }) => ({ sheet, rows: recordsIn(data) }))
    .filter(({ rows }) => rows.length > 0);
  if (tables.length === 1) return tables[0]!.rows;
  return Object.fromEntries(tables.map(({ sheet, rows }) => [sheet, rows]));
}

const filled = (row: readonly Cell[]): number => row.filter((cell) => cell !== null && cell !== '').length;

function recordsIn(data: readonly Cell[][]): RecordJson[] {
  const most = Math.max(0, ...data.slice(0, LOOKED_AT).map(filled));
  const header = data.findIndex((row) => filled(row) > 0 && filled(row) >= most * FULL);
  if (header === -1) return [];
  const names = nameColumns(data[header]!.map((cell) => textOf(cell)));
  return data
    .slice(header + 1)
    .filter((row) => filled(row) > 0)
    .map((row) =>
      Object.fromEntries(
        row.flatMap((cell, i): [string, unknown][] =>
          cell === null || cell === ''
            ? []
            : [[names[i] ?? `column ${i + 1}`, cell instanceof Date ? dateText(cell) : cell]],
        ),
      ),
    );
}

const textOf = (cell: Cell): string => (cell === null ? '' : cell instanceof Date ? dateText(cell) : String(cell));
