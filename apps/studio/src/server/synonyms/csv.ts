import type { SynonymGroup } from '@yucca/contract';
import { sniffSeparator } from '@yucca/engine/understand';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { Failure } from '../failure';
import { oneWayGroup, sameGroup, type ParsedSynonyms } from './parsed-synonyms';

/**
 * Synonyms as CSV (RFC 4180), a row for each group: `same` and its words, or `oneWay`, what is typed and what it finds
 * as well. A file without these words is a list of groups of the same meaning. Throws a Failure that names the line.
 */
export function synonymsFromCsv(text: string): ParsedSynonyms {
  let rows: string[][];
  try {
    rows = parse(text, {
      bom: true,
      delimiter: sniffSeparator(text),
      relax_column_count: true,
      skip_empty_lines: true,
    });
  } catch (error) {
    throw new Failure('unreadable', `The CSV cannot be read: ${(error as Error).message}`);
  }
  const groups: SynonymGroup[] = [];
  const ignored: string[] = [];
  rows.forEach((cells, row) => {
    const [kind = '', ...words] = cells;
    if (row === 0 && kind.trim() === 'kind') return;
    const group =
      kind.trim() === 'oneWay'
        ? oneWayGroup(words.slice(0, 1), words.slice(1))
        : sameGroup(kind.trim() === 'same' ? words : cells);
    if (group) groups.push(group);
    else ignored.push(`Row ${row + 1} holds fewer than two words: ${cells.join(', ').slice(0, 80)}`);
  });
  return { groups, ignored };
}

/** A one-way group of several typed words takes a row for each of them. */
export function synonymsToCsv(groups: readonly SynonymGroup[]): string {
  const rows = groups.flatMap((group) =>
    group.kind === 'same' ? [['same', ...group.words]] : group.from.map((from) => ['oneWay', from, ...group.to]),
  );
  return stringify([['kind', 'word', 'word or what it finds'], ...rows], { record_delimiter: '\r\n' });
}
