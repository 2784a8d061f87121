import type { InterfacePage } from '@yucca/contract';
import { cardFormatOf } from '@yucca/kit';
import { PICTURE_SIZES } from '../facts';
import { importsOf } from '../imports';
import { literal } from '../literal';

/** One result as elements, with the parts that the design shows and no others; a table has its rows elsewhere. */
export function cardBuilder(page: InterfacePage): string {
  const { card, geo, columns = 3, badges, link, layout } = page;
  const format = cardFormatOf(page);
  const money = format === null ? '' : `, ${literal(format)}`;
  const shown = Object.fromEntries(Object.entries(card).filter(([, field]) => field !== undefined));
  const parts = [
    'title',
    ...(card.picture === null ? [] : ['picture', 'smaller']),
    ...(['detail', 'second', 'text', 'number'] as const).filter((part) => (card[part] ?? null) !== null),
  ];
  const resultCard = `/** One result. \`row\`: its place on the page, from 0. */
export function resultCard(result: SearchResult, row: number, onOpen: () => void): HTMLElement {
  const { ${[...parts, 'elsewhere'].join(', ')} } = shownHit(result, CARD, SERVER);
  return element(
    'li',
    {},
    element(
      'article',
      { 'data-part': 'card' },
      ${
        card.picture === null
          ? ''
          : `picture &&
        element('img', {
          srcset: smaller,
          sizes: '${PICTURE_SIZES}',
          src: picture,
          alt: '',
          width: '320',
          height: '240',
          loading: row < ${columns} ? 'eager' : 'lazy',
        }),`
      }
      element(
        'div',
        { 'data-part': 'card-body' },
        ${badges === undefined ? '' : 'badges(result),'}
        element('h2', {}, element('a', { href: ${link === undefined ? '' : `recordLink(${literal(link)}, result.id, result.record) ?? `}recordHref(result), onclick: onOpen }, ...marked(title))),
        ${card.detail === null ? '' : `detail && element('p', { 'data-part': 'card-detail' }, ...marked(detail)),`}
        ${(card.second ?? null) === null ? '' : `second && element('p', { 'data-part': 'card-detail', 'data-line': '2' }, ...marked(second)),`}
        ${card.text === null ? '' : `text && element('p', { 'data-part': 'card-text' }, ...marked(text)),`}
        // Found in a field that is not on the card.
        elsewhere && element('p', { 'data-part': 'card-elsewhere' }, PAGE_TEXTS.label(elsewhere.label), ': ', ...marked(elsewhere)),
        ${geo === null ? '' : `result.distanceM !== undefined && element('p', { 'data-part': 'card-distance' }, PAGE_TEXTS.say('away', { distance: PAGE_TEXTS.distance(result.distanceM) })),`}
        ${card.number === null ? '' : `number && element('p', { 'data-part': 'card-number' }, PAGE_TEXTS.label(number.label), ' ', element('b', { 'data-part': 'figure' }, PAGE_TEXTS.figure(number.value${money}))),`}
      ),
    ),
  );
}
`;
  const body = `
/** Which field each part of a result comes from. */
export const CARD: Card = ${literal(shown)};
${
  badges === undefined
    ? ''
    : `
/** Words on the results that meet a condition, in the order of the conditions that are asked. */
const BADGES = ${literal(badges)};

${layout === 'table' ? 'export ' : ''}function badges({ meets = [] }: SearchResult): HTMLElement | null {
  const shown = meets.flatMap((at) => BADGES[at] ?? []);
  if (shown.length === 0) return null;
  return element('ul', { 'data-part': 'badges' }, ...shown.map(({ label }) => element('li', { 'data-part': 'badge' }, label)));
}
`
}
${layout === 'table' ? '' : resultCard}`;
  const own = { './dom': 'element marked', './texts': 'PAGE_TEXTS', './yucca': 'recordHref SERVER' };
  const used =
    card.picture === null
      ? body.replace('row: number, ', '').replace(' `row`: its place on the page, from 0.', '')
      : body;
  return importsOf(used, own) + used;
}
