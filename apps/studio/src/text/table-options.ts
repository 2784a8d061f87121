import { headerCells, nameColumns, type TableStart } from '@yucca/engine/understand';

/**
 * How a table that begins so is parsed, by the preview and by the server alike. Rows of nothing but separators, as
 * spreadsheets leave them behind the last one, are no rows. `names`: of its columns, where its header was read already.
 */
export function tableOptions(start: TableStart, names: string[] | null = null) {
  const { separator, fromLine, comment } = start;
  return {
    bom: true,
    columns: names ?? ((header: string[]) => nameColumns(headerCells(header, start))),
    delimiter: separator,
    from_line: names === null ? fromLine : 1,
    ...(comment === null ? {} : { comment, comment_no_infix: true }),
    // Files with tabs are rarely quoted: a quote inside a cell is a quote.
    relax_quotes: separator === '\t',
    skip_empty_lines: true,
    skip_records_with_empty_values: true,
    skip_records_with_error: true,
  };
}
