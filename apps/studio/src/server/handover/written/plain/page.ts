import type { InterfacePage } from '@yucca/contract';
import type { TakenAway } from '../../targets/target';
import { linkFrom, logoOf } from '../facts';
import { fieldSources } from '../field';
import { importsOf } from '../imports';
import { literal } from '../literal';

/** What the field offers. */
export function sourcesFile(page: InterfacePage): string {
  const body = fieldSources(page).replace('function sources', 'export function sources');
  return importsOf(body, { './card': 'CARD', './design': 'PAGE', './yucca': 'client memory SERVER' }) + body;
}

/** The list of results and what leads on from it. */
export function resultsFile(page: InterfacePage): string {
  const { paging, layout, start, shelves = [], card } = page;
  const grows = paging !== 'pages';
  const hasRest = start?.results !== false;
  const hasViewed = shelves.some(({ from }) => from === 'viewed');
  const list =
    layout === 'table'
      ? 'resultTable(answer.results, open)'
      : `element('ol', { 'data-part': 'list' }, ...answer.results.map((result, row) => resultCard(result, ${card.picture === null ? '' : 'row, '}() => open(result, row))))`;
  const body = `
const { say } = PAGE_TEXTS;
${
  start?.text === undefined
    ? ''
    : `
/** What stands there before anything is asked for. */
const START = ${literal(start.text)};
`
}

interface Going {
  go: (query: Query, how?: 'replace' | 'push') => void;
}

/** The results, what is said of them, and the way to more. */
export function results(${shelves.length > 0 ? 'snapshot' : '{ answer, answered, error }'}: SearchSnapshot, query: Query, { go }: Going): HTMLElement {
  ${shelves.length > 0 ? 'const { answer, answered, error } = snapshot;' : ''}
  ${start === undefined ? '' : 'const isBeginning = isStart(answered ?? query);'}
  const before = !answer || answer.results.length > answer.size ? 0 : (answer.page - 1) * answer.size;
  const open = (result: SearchResult, row: number): void => {
    memory.addViewed({ collection: COLLECTION, id: result.id, text: shownRow(result, CARD).text });
    insights.click(answer!.queryId, result.id, before + row + 1);
  };
  return element(
    'section',
    { id: 'results', 'data-part': 'results', 'aria-label': say('results') },
    ${start?.text === undefined ? '' : "isBeginning && element('p', { 'data-part': 'start' }, START),"}
    // The last good results stay below.
    error && element('p', { role: 'alert', 'data-part': 'trouble' }, say('noAnswerBecause', { reason: error.message })),
    ${shelves.length > 0 ? '...shelvesAbove(snapshot),' : ''}
    ${hasRest ? '' : '...(isBeginning ? [] : ['}
    answer &&
      element(
        'p',
        { role: 'status', 'data-part': 'count' },
        ...PAGE_TEXTS.pieces(
          answered?.q ? 'foundFor' : 'found',
          { total: answer.total, query: answered?.q ?? '' },
          { total: (text) => element('strong', {}, text) },
        ),
      ),
    answer?.understood.notice && element('p', { 'data-part': 'notice' }, answer.understood.notice),
    answer &&
      element(
        'p',
        { 'data-part': 'applied' },
        ...shownChoices(query, answer, PAGE_TEXTS).map(({ label, without }) =>
          link(hrefOf(without), () => go(without), { 'data-part': 'choice', title: say('remove', { choice: label }) }, label, ' ×'),
        ),
      ),
    answer &&
      ${list},
    answer && ${grows ? 'more(answer, query, go)' : 'pages(answer, query, go)'},
    ${hasRest ? '' : ']),'}
    ${hasViewed ? '...shelvesBelow(answered ?? query),' : ''}
  );
}

${
  grows
    ? `/** The way to the next results, below the ones there are. */
function more(answer: SearchAnswer, query: Query, go: Going['go']): HTMLElement | null {
  const next = withPage(query, answer.page + 1);
  if (answer.page >= answer.pages) return null;
  return element(
    'p',
    { 'data-part': 'more' },
    link(hrefOf(next), () => go(next, 'replace'), { 'data-part': 'button' }, say('showMore', { count: Math.min(answer.size, answer.total - answer.results.length), left: answer.total - answer.results.length })),
  );
}`
    : `/** Numbered pages, as links. */
function pages(answer: SearchAnswer, query: Query, go: Going['go']): HTMLElement | null {
  if (answer.pages < 2) return null;
  return element(
    'nav',
    { 'data-part': 'pages', 'aria-label': say('pages') },
    ...pageNumbers(answer.page, answer.pages).map((number) =>
      number === null
        ? '…'
        : link(hrefOf(withPage(query, number)), () => go(withPage(query, number)), number === answer.page ? { 'aria-current': 'page' } : {}, number),
    ),
  );
}`
}
`;
  const own = {
    './card': 'CARD resultCard',
    './dom': 'element link',
    './shelves': 'shelvesAbove shelvesBelow',
    './table': 'resultTable',
    './texts': 'PAGE_TEXTS',
    './yucca': 'COLLECTION hrefOf insights memory',
  };
  return importsOf(body, own) + body;
}

/** The page: its state, its address, and what is drawn when either changes. */
export function mainFile({ page, server }: TakenAway): string {
  const { facets, sorts, paging, shelves, typing } = page;
  const hasVoice = typing?.voice === true;
  const logo = logoOf(page, server);
  const links = (page.header?.links ?? []).map(
    ({ label, href }) => `element('a', { href: ${literal(linkFrom(server, href))} }, ${literal(label)}),\n`,
  );
  const body = `
const search = new SearchState({
  client: visitorClient,
  collection: COLLECTION,
  request: REQUEST,
  ${paging === 'pages' ? '' : 'grow: true,'}
  ${shelves === undefined ? '' : 'beside: BESIDE,'}
  query: asked(),
});
const change = inAddress(search);
const go = (query: Query, how: 'replace' | 'push' = 'push'): void => change(query, how);

/** Asks for good; whoever asks for what stands elsewhere is sent there. */
async function ask(text: string): Promise<void> {
  go(withText(search.snapshot().query, text));
  await search.settled();
  const { answer, answered } = search.snapshot();
  const elsewhere = answered?.q === text ? redirectOf(answer) : null;
  if (elsewhere !== null) window.location.assign(elsewhere);
}

const field = searchField({
  after: () => search.settled(),
  onText: (text) => change(withText(search.snapshot().query, text), 'replace'),
  onAsk: (text) => void ask(text),
  onValue: (facet, value) => go(withToggled(withText(search.snapshot().query, ''), facet, value)),
  onRecord: (record) => {
    memory.addViewed(record);
    window.location.assign(${page.link === undefined ? '' : 'record.href ?? '}recordHref(record));
  },
});
${
  hasVoice
    ? `const voice = voiceButton(
  (text) => change(withText(search.snapshot().query, text), 'replace'),
  (text) => {
    memory.addQuery(text);
    void ask(text);
  },
);`
    : ''
}
const body = element('div', { 'data-part': 'body', 'data-filters': ${literal(String(facets.length > 0))} });
const form = element(
  'form',
  {
    role: 'search',
    onsubmit: (event) => {
      event.preventDefault();
      void ask(search.snapshot().query.q);
    },
  },
  element('div', { 'data-part': 'bar' }, field.element, ${hasVoice ? 'voice, ' : ''}element('button', { type: 'submit', 'data-part': 'submit' }, TEXTS.submit)),
  ${sorts.length > 0 ? 'sortChoice(),' : ''}
  body,
);
${
  sorts.length > 0
    ? `
/** The orders to choose from. */
function sortChoice(): HTMLElement {
  const select = element(
    'select',
    { name: 'sort', onchange: () => go(withSort(search.snapshot().query, select.value || null)) },
    element('option', { value: '' }, PAGE_TEXTS.say('bestMatch')),
    ...SORTS.map(({ name, label }) => element('option', { value: name }, label)),
  );
  search.subscribe(() => {
    select.value = search.snapshot().query.sort ?? '';
  });
  return element('label', { 'data-part': 'sort' }, PAGE_TEXTS.say('sortBy'), ' ', select);
}
`
    : ''
}
function draw(): void {
  const snapshot = search.snapshot();
  const { query${facets.length > 0 ? ', answer' : ''} } = snapshot;
  field.settle(query.q);
  // What has the focus keeps it, though its element is made anew.
  const { name, value, type } = (document.activeElement ?? {}) as HTMLInputElement;
  const held = body.contains(document.activeElement) ? { name, value, type } : null;
  body.replaceChildren(
    ${facets.length > 0 ? "...(answer ? [element('div', { 'data-part': 'filters' }, filters(answer, query, go))] : [])," : ''}
    results(snapshot, query, { go }),
  );
  if (held?.type !== 'checkbox') return;
  for (const input of body.querySelectorAll('input'))
    if (input.name === held.name && input.value === held.value) input.focus();
}

document.getElementById('header')!.append(
  element('h1', {}, ${logo === null ? '' : `element('img', { src: ${literal(logo.src)}, alt: ${literal(logo.alt)}, height: '36' }), `}${logo !== null && page.header?.logoAlone ? '' : 'TEXTS.name'}),
  ${links.length === 0 ? '' : `element('nav', { 'aria-label': 'Links' }, ${links.join('')}),`}
);
document
  .getElementById('search')!
  .append(element('div', { 'data-yucca': '', lang: ${literal(page.locale ?? 'en')}, dir: ${literal(page.dir ?? 'ltr')}, 'data-layout': ${literal(page.layout === 'places' ? 'rows' : page.layout)}, 'data-filters-at': ${literal(page.filters ?? 'left')}, 'data-density': ${literal(page.density ?? 'roomy')} }, form));
search.subscribe(draw);
draw();
void search.refresh();
`;
  const own = {
    './address': 'asked inAddress',
    './dom': 'element',
    './facets': 'SORTS',
    './field': 'searchField',
    './filters': 'filters',
    './results': 'results',
    './shelves': 'BESIDE',
    './texts': 'PAGE_TEXTS TEXTS',
    './voice': 'voiceButton',
    './yucca': 'client visitorClient COLLECTION memory recordHref REQUEST',
  };
  const css = page.css ? `import './own.css';\n` : '';
  return `import '@yucca/kit/styles.css';\nimport './theme.css';\n${css}${importsOf(body, own)}${body}`;
}
