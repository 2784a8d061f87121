import type { InterfacePage, SearchResult } from '@yucca/contract';
import type { RefObject } from 'react';
import { shownCell, type ShownCell } from '../../shown-cell.ts';
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

/**
 * Results below each other, field by field, for data that people compare. A wide one scrolls in itself, by keyboard
 * too. The first column leads to the record.
 */
export function ResultTable({ page, results, rows, leadOf, picturesFrom }: ResultTableProps) {
  const texts = useTexts();
  const columns = page.table ?? [];
  const cells = results.map((result) =>
    columns.map(({ field }) => shownCell(result, field, page, texts, picturesFrom)),
  );
  const areFigures = columns.map((_, i) => cells.some((row) => 'figure' in row[i]!));
  return (
    <div data-part="table" role="group" aria-label={page.title} tabIndex={0}>
      <table>
        <thead>
          <tr>
            {columns.map((column, i) => (
              <th key={column.field} scope="col" data-figures={areFigures[i]}>
                {texts.label(column.label)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={rows as RefObject<HTMLTableSectionElement | null>}>
          {results.map((result, i) => {
            const { href, onOpen } = leadOf(result, i);
            return (
              <tr key={result.id}>
                {cells[i]!.map((shown, column) => {
                  const cell = <Cell cell={shown} />;
                  if (column > 0)
                    return (
                      <td key={column} data-figures={areFigures[column]}>
                        {cell}
                      </td>
                    );
                  return (
                    <th key={column} scope="row">
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

function Cell({ cell }: { cell: ShownCell }) {
  // eslint-disable-next-line @next/next/no-img-element -- the kit knows no framework
  if ('picture' in cell) return <img src={cell.picture} alt="" width={48} height={36} loading="lazy" />;
  if ('figure' in cell) return <span data-part="figure">{cell.figure}</span>;
  return <Marked text={cell.text} ranges={cell.ranges} />;
}
