import type { InterfacePage } from '@yucca/contract';
import { PICTURE_SIZES } from '../facts';
import { importsOf } from '../imports';
import { literal } from '../literal';

/** Rows of records beside the results: chosen ones, what other collections have, what was looked at. */
export function shelvesFile({ shelves = [] }: InterfacePage): string {
  const hasViewed = shelves.some(({ from }) => from === 'viewed');
  const hasFound = shelves.some(({ from }) => from === 'found');
  const hasLinks = shelves.some(({ link }) => link !== undefined);
  const body = `
const SHELVES: PageShelf[] = ${literal(shelves)};

/** What they ask for, in the same request as the results. */
export const BESIDE = shelvesBeside({ shelves: SHELVES });

/** The page of a record of a shelf; a collection without one has none. */
function pageOf({ collection, at }: PageShelf, id: string): string | undefined {
  if (collection === COLLECTION) return recordHref({ id });
  return at === '' ? undefined : \`\${SERVER}\${at}/r/\${encodeURIComponent(id)}\`;
}

/** One record: without its long text, which is for who looks closer. */
function card({ title, picture, smaller, detail, second, number }: Omit<ShownHit, 'id' | 'text' | 'elsewhere'>, shelf: PageShelf, href: string | undefined, remember: () => void): HTMLElement {
  return element(
    'li',
    {},
    element(
      'article',
      { 'data-part': 'card' },
      picture && element('img', { srcset: smaller, sizes: '${PICTURE_SIZES}', src: picture, alt: '', width: '320', height: '240', loading: 'lazy' }),
      element(
        'div',
        { 'data-part': 'card-body' },
        element('h2', {}, element('a', { href, onclick: remember }, ...marked(title))),
        detail && element('p', { 'data-part': 'card-detail' }, ...marked(detail)),
        second && element('p', { 'data-part': 'card-detail', 'data-line': '2' }, ...marked(second)),
        number && element('p', { 'data-part': 'card-number' }, PAGE_TEXTS.label(number.label), ' ', element('b', { 'data-part': 'figure' }, PAGE_TEXTS.figure(number.value, shelf.format))),
      ),
    ),
  );
}

const row = (label: string, total: string | null, cards: (HTMLElement | false)[]): HTMLElement =>
  element(
    'section',
    { 'data-part': 'shelf', 'aria-label': label },
    element('p', { 'data-part': 'shelf-title' }, label, ' ', total !== null && element('span', { 'data-part': 'figure' }, total)),
    element('ol', {}, ...cards),
  );

/** Above the results: chosen records before anything is asked for, what other collections have for it after. */
export const shelvesAbove = ({ beside${hasFound ? ', answered' : ''} }: SearchSnapshot): HTMLElement[] =>
  SHELVES.flatMap((shelf, i) => {
    const answer = beside[i];
    if (!answer || answer.results.length === 0) return [];
    const { collection, label } = shelf;
    const cards = inOrder(shelf, answer.results).map((result) => {
      const hit = shownHit(result, shelf.card, SERVER);
      const href = ${hasLinks ? '(shelf.link === undefined ? undefined : recordLink(shelf.link, result.id, result.record)) ?? ' : ''}pageOf(shelf, result.id);
      return card(hit, shelf, href, () => memory.addViewed({ collection, id: result.id, text: hit.title.text, ...(hit.detail && { detail: hit.detail.text }), ...(hit.picture && { picture: hit.picture })${hasLinks ? ', ...(href && { href })' : ''} }));
    });
    ${
      hasFound
        ? `if (shelf.from !== 'found') return [row(label, null, cards)];
    const all = SERVER + addressMap([]).write(withText(EMPTY_QUERY, answered?.q ?? ''), { pathname: shelf.at });
    const isMore = answer.total > answer.results.length && shelf.at !== '';
    const more = isMore && element('li', { 'data-part': 'shelf-all' }, element('a', { 'data-part': 'link', href: all }, PAGE_TEXTS.say('allOf', { total: answer.total, label })));
    return [row(label, PAGE_TEXTS.count(answer.total), [...cards, more])];`
        : 'return [row(label, null, cards)];'
    }
  });
${
  hasViewed
    ? `
/** Below the results, before anything is asked for: what this visitor looked at. It is known on the device alone. */
export const shelvesBelow = (query: Query): HTMLElement[] =>
  SHELVES.flatMap((shelf) => {
    if (shelf.from !== 'viewed' || !isStart(query)) return [];
    const here = memory.viewed().filter(({ collection }) => collection === shelf.collection).slice(0, shelf.size);
    if (here.length === 0) return [];
    const cards = here.map((record) => {
      const { id, href, text, detail, picture } = record;
      const hit = { title: { text, ranges: [] }, detail: detail ? { text: detail, ranges: [] } : null, second: null, picture: picture ?? null, number: null };
      return card(hit, shelf, href ?? pageOf(shelf, id), () => memory.addViewed(record));
    });
    return [row(shelf.label, null, cards)];
  });
`
    : ''
}`;
  const own = {
    './dom': 'element marked',
    './texts': 'PAGE_TEXTS',
    './yucca': 'COLLECTION memory recordHref SERVER',
  };
  return importsOf(body, own) + body;
}
