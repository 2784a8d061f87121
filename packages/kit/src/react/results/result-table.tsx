import { fieldFormat, valuesAt, type InterfacePage, type SearchResult } from '@yucca/contract';
import type { RefObject } from 'react';
import { shownHit, textAt } from '../../card.ts';
import { Marked } from '../marked.tsx';
import type { Lead } from '../navigation.ts';
import { useTexts } from '../use-texts.ts';
import { Badges } from './badges.tsx';

/** What `ResultTable` is given. */
export interface ResultTableProps {
  page: InterfacePage;
  results: readonly SearchResult[];
  /** Is given the element whose children are the results. */
  rows?: RefObject<HTMLElement | null>;
  /** Where the title of a row leads; `i` counts from 0. */
  leadOf: (result: SearchResult, i: number) => Lead;
  /** The server that pictures lie on whose addresses begin with a slash. */
  picturesFrom?: string;
}

/** Letters of a cell at most. */
const MOST = 160;

/**
 * Results below each other, field by field, for data that people compare. A wide one scrolls in itself, by keyboard
 * too. The first column leads to the record.
 */
export function ResultTable({ page, results, rows, leadOf, picturesFrom }: ResultTableProps) {
  const { label } = useTexts();
  const columns = page.table ?? [];
  const areNumbers = columns.map(({ field }) =>
    results.some(({ record }) => typeof valuesAt(record, field) === 'number'),
  );
  return (
    <div data-part="table" role="group" aria-label={page.title} tabIndex={0}>
      <table>
        <thead>
          <tr>
            {columns.map((column, i) => (
              <th key={column.field} scope="col" data-figures={areNumbers[i]}>
                {label(column.label)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={rows as RefObject<HTMLTableSectionElement | null>}>
          {results.map((result, i) => {
            const { href, onOpen } = leadOf(result, i);
            return (
              <tr key={result.id}>
                {columns.map(({ field }, column) => {
                  const cell = <Cell {...{ page, result, field, picturesFrom }} />;
                  if (column > 0)
                    return (
                      <td key={field} data-figures={areNumbers[column]}>
                        {cell}
                      </td>
                    );
                  return (
                    <th key={field} scope="row">
                      {href === undefined ? (
                        cell
                      ) : (
                        <a href={href} onClick={onOpen}>
                          {cell}
                        </a>
                      )}
                      <Badges page={page} result={result} />
                    </th>
                  );
                })}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What a field of a result says: its text with what matched, its number as it is written, its list with commas. */
function Cell({
  page,
  result,
  field,
  picturesFrom,
}: Pick<ResultTableProps, 'page' | 'picturesFrom'> & { result: SearchResult; field: string }) {
  const { figure } = useTexts();
  const picture = field === page.card.picture && shownHit(result, page.card, picturesFrom).thumbnail;
  // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
  if (picture) return <img src={picture} alt="" width={48} height={36} loading="lazy" />;
  const value = valuesAt(result.record, field);
  if (typeof value === 'number')
    return <span data-part="figure">{figure(value, fieldFormat(page.formats, field))}</span>;
  if (typeof value === 'boolean') return value ? '✓' : '–';
  if (Array.isArray(value) && value.every((one) => typeof one !== 'object')) return value.join(', ');
  const shown = textAt(result, field, MOST);
  return shown ? <Marked text={shown.text} ranges={shown.ranges} /> : '–';
}
