import { sniffSeparator, SEPARATOR_SIGNS, type Separator } from './separator.ts';

/** Where and how a table begins in a text. */
export interface TableStart {
  separator: Separator;
  /** Lines above its header: what the table is about, who made it, `sep=;`, comments. */
  skip: number;
  /** The line, from 1, that a parser has to begin with, when comments are not counted. */
  fromLine: number;
  /** Lines that begin with it are no rows; null = there are none. */
  comment: '#' | null;
  /** Every row ends with one more separator than the header. */
  hasOpenRows: boolean;
  /** The header stands behind a sign of comments. */
  isCommented: boolean;
  header: string[];
  /** How many cells that are. */
  cells: number;
  /** Rows below it, of those looked at, that have as many. */
  rows: number;
}

/** `sep=;` in the first line says how cells are parted, to spreadsheets of all countries. */
const SAID = /^"?sep=(.)"?\s*$/i;
/** Rows looked at, and lines that may stand above a header. */
const LOOKED_AT = 60;
const MOST_SKIPPED = 30;
/** Rows that have to agree on their number of cells before lines above them are taken for a preamble. */
const AGREEING = 0.8;
/** The first line is a header in most files: there, half of them are enough. */
const AGREEING_WITH_FIRST = 0.5;

interface TableRow {
  /** From 0. */
  line: number;
  cells: string[];
}

/** The first rows of a table, each with the line it begins in; cells in quotes may hold separators and lines. */
function firstRows(text: string, separator: string): TableRow[] {
  const rows: TableRow[] = [];
  let [line, begun, quoted, cell] = [0, 0, false, ''];
  let cells: string[] = [];
  const end = (): void => {
    rows.push({ line: begun, cells: [...cells, cell] });
    [cells, cell, begun] = [[], '', line];
  };
  for (let i = 0; i < text.length && rows.length < LOOKED_AT; i++) {
    const char = text[i]!;
    if (char === '\n') line++;
    // A quote inside a cell is a letter, unless the cell began with one; there it is doubled.
    if (char === '"' && quoted && text[i + 1] === '"') {
      cell += char;
      i++;
    } else if (char === '"' && (quoted || cell === '')) quoted = !quoted;
    else if (quoted) cell += char;
    else if (char === separator) {
      cells.push(cell);
      cell = '';
    } else if (char === '\n') end();
    else if (char !== '\r') cell += char;
  }
  if (rows.length < LOOKED_AT && !quoted && (cell !== '' || cells.length > 0)) {
    line++;
    end();
  }
  return rows;
}

const isBlank = ({ cells }: TableRow): boolean => cells.every((cell) => cell.trim() === '');
const isComment = ({ cells }: TableRow): boolean => cells[0]!.startsWith('#');
const isNumeric = (cell: string): boolean => /^[-+]?\d+([.,]\d+)?$/.test(cell.trim());

/**
 * Where the table in a text begins: see `TableStart`. The text is its beginning; a row that it cuts does no harm.
 * `headerLine`: the line, from 1, that somebody says the header is in.
 */
export function tableStart(text: string, headerLine: number | null | undefined = null): TableStart {
  const plain = text.replace(/^\ufeff/, '');
  if (typeof headerLine === 'number' && headerLine > 1) {
    const lines = plain.split('\n');
    const start = tableStart(lines.slice(headerLine - 1).join('\n'), 1);
    const comment = plain.startsWith('#') ? ('#' as const) : start.comment;
    const above = lines.slice(0, headerLine - 1);
    return { ...start, comment, skip: headerLine - 1, fromLine: fromLineBelow(above, comment) };
  }
  const said = SAID.exec(plain.slice(0, 20).split(/\r?\n/, 1)[0]!)?.[1];
  const separators = said !== undefined && isSeparator(said) ? [said] : SEPARATOR_SIGNS;
  const first = said === undefined ? 0 : 1;
  const hasComments = plain.startsWith('#');
  const usual = said !== undefined && isSeparator(said) ? said : sniffSeparator(plain);
  const lines = plain.split('\n', MOST_SKIPPED + 1);
  const starts = [usual, ...separators.filter((one) => one !== usual)].map((separator) =>
    startWith(separator, firstRows(plain, separator), first, hasComments, lines),
  );
  const [asUsual] = starts as [TableStart];
  if (typeof headerLine === 'number') return { ...asUsual, skip: 0, fromLine: 1 };
  const weight = ({ rows, cells }: TableStart): number => rows * (cells - 1);
  const best = starts.reduce((one, other) => (weight(other) > weight(one) ? other : one));
  // The header of most files is their first line. A title above a table may have a comma too; but then the table's own
  // header has none.
  const isFirst = asUsual.skip === first && asUsual.rows > 0 && asUsual.cells > 1;
  const isBetter = best.cells > asUsual.cells && !best.header.some((cell) => cell.includes(asUsual.separator));
  if (isFirst && !isBetter) return asUsual;
  return best.cells > 1 ? best : { ...asUsual, skip: first, fromLine: first + 1 };
}

/** The line that a parser begins with to find what follows some lines: comments it passes over without counting. */
const fromLineBelow = (above: readonly string[], comment: '#' | null): number =>
  1 + above.filter((line) => comment === null || !line.startsWith(comment)).length;

const isSeparator = (sign: string): sign is Separator => (SEPARATOR_SIGNS as readonly string[]).includes(sign);

/** The start with one separator, and how many rows agree on how many cells. */
function startWith(
  separator: Separator,
  all: readonly TableRow[],
  first: number,
  hasComments: boolean,
  lines: readonly string[],
): TableStart {
  const comment = hasComments ? ('#' as const) : null;
  const rows = all.filter((row) => row.line >= first && !isBlank(row) && !(hasComments && isComment(row)));
  const none = {
    separator,
    skip: first,
    fromLine: first + 1,
    comment,
    hasOpenRows: false,
    isCommented: false,
    rows: 0,
    header: [] as string[],
    cells: 1,
  };
  for (const [i, header] of rows.entries()) {
    if (header.line > MOST_SKIPPED) break;
    const cells = header.cells.length;
    const below = rows.slice(i + 1, i + 21);
    if (cells < 2 || (below.length === 0 && i > 0)) continue;
    const alike = below.filter((row) => row.cells.length === cells).length;
    const open = below.filter((row) => row.cells.length === cells + 1 && row.cells.at(-1) === '').length;
    const agreeing = Math.max(alike, open);
    if (below.length > 0 && agreeing < below.length * (i === 0 ? AGREEING_WITH_FIRST : AGREEING)) continue;
    const above = hasComments ? all.filter((row) => isComment(row) && row.line < header.line).at(-1) : undefined;
    // `# id,name` above rows without a header of their own.
    const isCommented = above?.cells.length === cells && header.cells.some(isNumeric) && !above.cells.some(isNumeric);
    const skip = isCommented ? above.line : i === 0 && !hasComments ? first : header.line;
    const sign = isCommented ? null : comment;
    return {
      separator,
      skip,
      fromLine: fromLineBelow(lines.slice(0, skip), sign),
      comment: sign,
      hasOpenRows: open > alike,
      isCommented,
      rows: agreeing,
      header: header.cells,
      cells,
    };
  }
  return none;
}

/** The names of the columns that a header gives, as its table begins. */
export function headerCells(header: readonly string[], { isCommented, hasOpenRows }: TableStart): string[] {
  const [first = '', ...rest] = header;
  return [isCommented ? first.replace(/^#\s*/, '') : first, ...rest, ...(hasOpenRows ? [''] : [])];
}
