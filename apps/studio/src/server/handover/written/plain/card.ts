import type { InterfacePage } from '@yucca/contract';
import { importsOf } from '../imports';
import { literal } from '../literal';

/** One result as elements, with the parts that the design shows and no others. */
export function cardBuilder({ card, currency, geo, columns = 3 }: InterfacePage): string {
  const money = currency === null ? '' : `, ${literal(currency)}`;
  const shown = Object.fromEntries(Object.entries(card).filter(([, field]) => field !== undefined));
  const parts = ['title', ...(['picture', 'detail', 'text', 'number'] as const).filter((part) => card[part] !== null)];
  const body = `
/** Which field each part of a result comes from. */
export const CARD: Card = ${literal(shown)};

/** One result. \`row\`: its place on the page, from 0. */
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
          src: picture,
          alt: '',
          width: '320',
          height: '240',
          loading: row < ${columns * 2} ? 'eager' : 'lazy',
        }),`
      }
      element(
        'div',
        { 'data-part': 'card-body' },
        element('h2', {}, element('a', { href: recordHref(result), onclick: onOpen }, ...marked(title))),
        ${card.detail === null ? '' : `detail && element('p', { 'data-part': 'card-detail' }, ...marked(detail)),`}
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
  const own = { './dom': 'element marked', './texts': 'PAGE_TEXTS', './yucca': 'recordHref SERVER' };
  const used =
    card.picture === null
      ? body.replace('row: number, ', '').replace(' `row`: its place on the page, from 0.', '')
      : body;
  return importsOf(used, own) + used;
}
