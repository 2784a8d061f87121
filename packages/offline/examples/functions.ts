/** Functions of the core: what each is given, and what comes of it. */
import {
  addressMap,
  cardFormatOf,
  chosenValues,
  count,
  counted,
  createClient,
  createMemory,
  distance,
  EMPTY_QUERY,
  escapeValue,
  excerpt,
  facetValues,
  fieldsOf,
  figure,
  figureText,
  inOrder,
  isRange,
  isStart,
  keepScroll,
  markedPieces,
  pageNumbers,
  pagesUpTo,
  parseAddress,
  pointAt,
  pointOf,
  prefixed,
  printAddress,
  ProblemError,
  recordLink,
  redirectOf,
  requestFor,
  sameQuery,
  searchParams,
  SearchState,
  shelvesBeside,
  shownCell,
  shownChoices,
  shownHit,
  shownRow,
  standingRequest,
  Store,
  withChoices,
  withLabels,
  withNear,
  withoutChoices,
  withPage,
  withRange,
  withSort,
  withText,
  withToggled,
  type Query,
} from '@yucca/kit';
import { createInsights } from '@yucca/kit/insights';
import { withStanding } from '@yucca/kit/standing';
import { GERMAN, textsOf } from '@yucca/kit/texts';
import { canListen, listen, voiceTexts } from '@yucca/kit/voice';
import { client, page } from './shop';

const query: Query = { ...EMPTY_QUERY, q: 'rose', select: { colour: ['pink'], price: { max: 30 } } };

// #region addressMap
export const addressMapExample = () =>
  addressMap(page.facets, { facet: 'colour', base: '/plants' }).write(query, { pathname: '/plants' });
// #endregion

// #region prefixed
export const prefixedExample = () => prefixed(addressMap(page.facets), 'left').write(query, { pathname: '/' });
// #endregion

// #region printAddress
export const printAddressExample = () => printAddress(query);
// #endregion

// #region parseAddress
export const parseAddressExample = () => parseAddress('?q=rose&colour=pink&from=letter', page.facets);
// #endregion

// #region escapeValue
export const escapeValueExample = () => escapeValue('black, white');
// #endregion

// #region withText
export const withTextExample = () => withText(query, 'fern');
// #endregion

// #region withToggled
export const withToggledExample = () => withToggled(query, 'colour', 'white');
// #endregion

// #region withRange
export const withRangeExample = () => withRange(query, 'price', { min: 10, max: 20 });
// #endregion

// #region withChoices
export const withChoicesExample = () => withChoices(query, { colour: ['red'] });
// #endregion

// #region withoutChoices
export const withoutChoicesExample = () => withoutChoices(query);
// #endregion

// #region withSort
export const withSortExample = () => withSort(query, 'price');
// #endregion

// #region withNear
export const withNearExample = () => withNear(query, { lat: 46.948, lng: 7.447, withinM: 5_000 });
// #endregion

// #region withPage
export const withPageExample = () => withPage(query, 3);
// #endregion

// #region chosenValues
export const chosenValuesExample = () => chosenValues(query, 'colour');
// #endregion

// #region isRange
export const isRangeExample = () => [isRange(query.select.price), isRange(query.select.colour)];
// #endregion

// #region isStart
export const isStartExample = () => [isStart(EMPTY_QUERY), isStart(query)];
// #endregion

// #region sameQuery
export const sameQueryExample = () => sameQuery(query, { ...query, select: { price: { max: 30 }, colour: ['pink'] } });
// #endregion

// #region requestFor
export const requestForExample = () => requestFor(query, { facets: ['colour'], size: 12 });
// #endregion

// #region searchParams
export const searchParamsExample = () => String(searchParams(requestFor(query)));
// #endregion

// #region standingRequest
export const standingRequestExample = () => standingRequest(page);
// #endregion

// #region shelvesBeside
export const shelvesBesideExample = () =>
  shelvesBeside({
    shelves: [
      {
        from: 'found',
        label: 'Guides',
        collection: 'guides',
        at: '/s/guides',
        card: { ...page.card, title: 'title' },
        size: 2,
      },
    ],
  });
// #endregion

// #region inOrder
export const inOrderExample = () => inOrder({ ids: ['P-07', 'P-01'] }, [{ id: 'P-01' }, { id: 'P-07' }]);
// #endregion

// #region fieldsOf
export const fieldsOfExample = () => fieldsOf(page.card);
// #endregion

// #region recordLink
export const recordLinkExample = () => recordLink('/plants/{id}-{name}', 'P-01', { name: 'Lady fern' });
// #endregion

// #region count
export const countExample = () => count(12_345);
// #endregion

// #region counted
export const countedExample = () => counted(1_234, 'plant');
// #endregion

// #region distance
export const distanceExample = () => distance(1_480);
// #endregion

// #region figure
export const figureExample = () => [figure(4.5, 'CHF'), figure(4.5, { unit: 'stars' }), figure(1_234.5, 'EUR', 'de')];
// #endregion

// #region figureText
export const figureTextExample = () => figureText({ value: 9.5 }, 'CHF');
// #endregion

// #region cardFormatOf
export const cardFormatOfExample = () => cardFormatOf(page);
// #endregion

// #region pageNumbers
export const pageNumbersExample = () => pageNumbers(6, 40);
// #endregion

// #region pointOf
export const pointOfExample = () => pointOf({ type: 'Point', coordinates: [7.447, 46.948] });
// #endregion

// #region pointAt
export const pointAtExample = () => pointAt({ shop: { lat: 46.948, lng: 7.447 } }, 'shop');
// #endregion

// #region markedPieces
export const markedPiecesExample = () => markedPieces('Lady fern', [[5, 9]]);
// #endregion

// #region excerpt
export const excerptExample = () =>
  excerpt('Lady fern: one of our ferns, which likes the shade of a wall.', [[5, 9]], 24);
// #endregion

// #region canListen
export const canListenExample = () => canListen();
// #endregion

// #region textsOf
export const textsOfExample = () => textsOf('de', GERMAN).say('foundFor', { total: 3, query: 'Farn' });
// #endregion

// #region facetValues
export const facetValuesExample = async () => {
  const { facets } = await client.search('plants', { facets: ['colour'] });
  return facetValues(facets.colour).map(({ value, count: found }) => `${value} ${found}`);
};
// #endregion

// #region shownHit
export const shownHitExample = async () => {
  const { results } = await client.search('plants', { q: 'lavender', size: 1 });
  const { title, detail, number } = shownHit(results[0]!, page.card);
  return { title, detail, number };
};
// #endregion

// #region shownCell
export const shownCellExample = async () => {
  const { results } = await client.search('plants', { q: 'lavender', size: 1 });
  return ['name', 'price', 'pet_safe'].map((field) => shownCell(results[0]!, field, page, textsOf()));
};
// #endregion

// #region shownRow
export const shownRowExample = async () => {
  const { results } = await client.search('plants', { q: 'lavender', size: 1 });
  return shownRow(results[0]!, page.card, '', { parts: ['detail'] });
};
// #endregion

// #region shownChoices
export const shownChoicesExample = async () => {
  const answer = await client.search('plants', requestFor(query, { facets: ['*'] }));
  return shownChoices(query, answer, textsOf()).map(({ label }) => label);
};
// #endregion

// #region withLabels
export const withLabelsExample = async () => {
  const answer = await client.search('plants', { facets: ['colour'] });
  return withLabels(answer, [{ name: 'colour', kind: 'values', label: 'Colour of its flowers' }])?.facets.colour?.label;
};
// #endregion

// #region redirectOf
export const redirectOfExample = async () => redirectOf(await client.search('plants', { q: 'rose' }));
// #endregion

// #region pagesUpTo
export const pagesUpToExample = async () => {
  const page2 = await pagesUpTo({ ...query, page: 2 }, (one) => client.search('plants', requestFor(one, { size: 1 })));
  return page2.results.map(({ id }) => id);
};
// #endregion

// #region createClient
export const createClientExample = async () => {
  // A real page leaves `fetch` to the browser; here nobody is asked.
  const shop = createClient({
    base: 'https://search.example',
    key: 'a-search-key',
    fetch: async () => Response.json({ total: 3 }),
  });
  return (await shop.search('plants', { q: 'rose' })).total;
};
// #endregion

// #region ProblemError
export const ProblemErrorExample = async () => {
  const error: unknown = await client.search('nothing', {}).catch((reason: unknown) => reason);
  return error instanceof ProblemError && error.message;
};
// #endregion

// #region withStanding
export const withStandingExample = async () => {
  const safe = withStanding(client, { plants: { filter: 'pet_safe = TRUE' } });
  return [(await client.search('plants', {})).total, (await safe.search('plants', {})).total];
};
// #endregion

// #region SearchState
export const SearchStateExample = async () => {
  const search = new SearchState({ client, collection: 'plants', request: { size: 1 } });
  search.ask({ ...EMPTY_QUERY, q: 'lavendr' });
  await search.settled();
  return search.snapshot().answer?.results[0]?.record.name;
};
// #endregion

// #region createMemory
export const createMemoryExample = () => {
  const visitor = createMemory('nursery', null);
  visitor.addQuery('fern');
  visitor.addQuery('rose');
  return visitor.queries();
};
// #endregion

// #region Store
export const StoreExample = () => {
  class Counter extends Store<number> {
    add = (): void => this.put(this.snapshot() + 1);
  }
  const counter = new Counter(0);
  const told: number[] = [];
  counter.subscribe(() => told.push(counter.snapshot()));
  counter.add();
  counter.add();
  return told;
};
// #endregion

// #region keepScroll
export const keepScrollExample = () => {
  const kept = keepScroll(window);
  kept.stop();
  return Object.keys(kept);
};
// #endregion

// #region createInsights
export const createInsightsExample = () => {
  const insights = createInsights({ key: 'a-search-key', page: null });
  return insights.active;
};
// #endregion

// #region voiceTexts
export const voiceTextsExample = () => voiceTexts('de-AT').speak;
// #endregion

// #region listen
export const listenExample = () =>
  new Promise((resolve) => {
    const stop = listen({ locale: 'en', onText: () => {}, onEnd: (text, trouble) => resolve({ text, trouble }) });
    stop();
  });
// #endregion
