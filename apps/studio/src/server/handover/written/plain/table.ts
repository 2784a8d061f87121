import type { InterfacePage } from '@yucca/contract';
import { importsOf } from '../imports';
import { literal } from '../literal';

/** Results below each other, field by field. */
export function tableFile({ table = [], formats, link, badges }: InterfacePage): string {
  const body = `
/** The columns, in their order. The first leads to the record. */
const COLUMNS: { field: string; label: string }[] = ${literal(table)};
const LOOK = { card: CARD, formats: ${literal(formats ?? {})} };

function drawn(cell: ShownCell): Node[] {
  if ('picture' in cell) return [element('img', { src: cell.picture, alt: '', width: '48', height: '36', loading: 'lazy' })];
  if ('figure' in cell) return [element('span', { 'data-part': 'figure' }, cell.figure)];
  return marked(cell);
}

const isFigure = (cell?: ShownCell): boolean => cell !== undefined && 'figure' in cell;

/** The results as a table; a wide one scrolls in itself, by keyboard too. */
export function resultTable(results: readonly SearchResult[], onOpen: (result: SearchResult, row: number) => void): HTMLElement {
  const rows = results.map((result) => COLUMNS.map(({ field }) => shownCell(result, field, LOOK, PAGE_TEXTS, SERVER)));
  const figures = COLUMNS.map((_, column) => String(rows.some((cells) => isFigure(cells[column]))));
  const head = COLUMNS.map(({ label }, i) => element('th', { scope: 'col', 'data-figures': figures[i] }, PAGE_TEXTS.label(label)));
  const body = results.map((result, row) => {
    const [first, ...others] = rows[row] ?? [];
    return element(
      'tr',
      {},
      first &&
        element(
          'th',
          { scope: 'row' },
          element('a', { href: ${link === undefined ? '' : `recordLink(${literal(link)}, result.id, result.record) ?? `}recordHref(result), onclick: () => onOpen(result, row) }, ...drawn(first)),
          ${badges === undefined ? '' : 'badges(result),'}
        ),
      ...others.map((cell, i) => element('td', { 'data-figures': figures[i + 1] }, ...drawn(cell))),
    );
  });
  return element(
    'div',
    { 'data-part': 'table', role: 'group', 'aria-label': TEXTS.name, tabindex: '0' },
    element('table', {}, element('thead', {}, element('tr', {}, ...head)), element('tbody', {}, ...body)),
  );
}
`;
  const own = {
    './card': 'badges CARD',
    './dom': 'element marked',
    './texts': 'PAGE_TEXTS TEXTS',
    './yucca': 'recordHref SERVER',
  };
  return importsOf(body, own) + body;
}
