/** What a field offers while somebody types: its sources, and what each offers. */
import {
  addressSource,
  Autocomplete,
  completionsSource,
  createMemory,
  listSource,
  pastQueriesSource,
  recordsSource,
  shownRow,
  sourcesFor,
  staticSource,
  viewedSource,
} from '@yucca/kit';
import { client, memory, page } from './shop';

const never = new AbortController().signal;

// #region Autocomplete
export const AutocompleteExample = async () => {
  const offers = new Autocomplete({
    sources: [completionsSource(client, { collection: 'plants', label: 'Go on with' })],
  });
  offers.type('pi');
  await new Promise((resolve) => offers.subscribe(() => !offers.snapshot().loading && resolve(null)));
  return offers.snapshot().offers.map(({ text }) => text);
};
// #endregion

// #region completionsSource
export const completionsSourceExample = () =>
  completionsSource(client, { collection: 'plants', label: 'Go on with' }).load('pi', never);
// #endregion

// #region recordsSource
export const recordsSourceExample = () =>
  recordsSource(client, [
    { collection: 'plants', label: 'Plants', size: 1, row: (result) => shownRow(result, page.card, '', { parts: [] }) },
  ]).load('fern', never);
// #endregion

// #region pastQueriesSource
export const pastQueriesSourceExample = () => {
  const past = createMemory('past', null);
  past.addQuery('red maple');
  return pastQueriesSource(past, { label: 'Asked before' }).load('re', never);
};
// #endregion

// #region viewedSource
export const viewedSourceExample = () => {
  const seen = createMemory('seen', null);
  seen.addViewed({ collection: 'plants', id: 'P-01', text: 'Lady fern' });
  return viewedSource(seen, { label: 'Looked at before' }).load('', never);
};
// #endregion

// #region staticSource
export const staticSourceExample = () =>
  staticSource('tips', 'Popular now', [{ id: 't1', kind: 'query', text: 'balcony', ranges: [] }]).load('', never);
// #endregion

// #region listSource
export const listSourceExample = () =>
  listSource({ label: 'Our shops', size: 2, rows: [{ text: 'Bern', href: '/shops/bern' }] }, 'shops').load('', never);
// #endregion

// #region addressSource
export const addressSourceExample = () =>
  addressSource({ label: 'Pages', size: 2, address: '/offers.json?q={text}' }, 'pages').name;
// #endregion

// #region sourcesFor
export const sourcesForExample = () =>
  sourcesFor([{ from: 'values', label: 'Go on with', collection: 'plants', size: 4 }], client, memory).map(
    ({ name }) => name,
  );
// #endregion
