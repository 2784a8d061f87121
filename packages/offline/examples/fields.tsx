/** Fields with what they offer, whole pages, and the hooks they are made of. */
import {
  completionsSource,
  EMPTY_QUERY,
  printAddress,
  recordsSource,
  shownRow,
  type Offer,
  type Query,
} from '@yucca/kit';
import {
  OfferPreview,
  OfferRow,
  QueryField,
  ResultCount,
  SearchBox,
  SearchField,
  SearchView,
  TextsProvider,
  useAddress,
  useAutocomplete,
  useGivenQuery,
  useSearch,
  useSlow,
  useTexts,
  useViews,
} from '@yucca/kit/react';
import { VoiceButton } from '@yucca/kit/react/voice';
import { GERMAN, textsOf } from '@yucca/kit/texts';
import { useEffect, useRef, useState } from 'react';
import { client, memory, page, type Shop } from './shop';

// #region SearchView
export const SearchViewExample = () => <SearchView page={page} client={client} memory={memory} address="none" />;
// #endregion

// #region SearchBox
export function SearchBoxExample({ query, answer, go }: Shop) {
  return (
    <SearchBox
      page={{ ...page, autocomplete: [{ from: 'values', label: 'Go on with', collection: 'plants', size: 4 }] }}
      client={client}
      memory={memory}
      text={query.q}
      total={answer.total}
      onText={(q) => go({ ...query, q })}
      onAsk={(q) => go({ ...query, q })}
      onValue={(facet, value) => go({ ...EMPTY_QUERY, select: { [facet]: [value] } })}
      onRecord={({ text }) => go({ ...query, q: text })}
    />
  );
}
// #endregion

// #region QueryField
export function QueryFieldExample({ query, answer, go }: Shop) {
  return (
    <QueryField
      label="Search our plants"
      sources={() => [
        completionsSource(client, { collection: 'plants', label: 'Go on with' }),
        recordsSource(client, [
          { collection: 'plants', label: 'Plants', size: 3, row: (result) => shownRow(result, page.card) },
        ]),
      ]}
      memory={memory}
      text={query.q}
      total={answer.total}
      onText={(q) => go({ ...query, q })}
      onAsk={(q) => go({ ...query, q })}
      onValue={(facet, value) => go({ ...EMPTY_QUERY, select: { [facet]: [value] } })}
      onRecord={({ text }) => go({ ...query, q: text })}
    />
  );
}
// #endregion

// #region SearchField
export function SearchFieldExample() {
  const [text, setText] = useState('');
  const [snapshot, state] = useAutocomplete(() => ({
    sources: [completionsSource(client, { collection: 'plants', label: 'Go on with' })],
  }));
  return (
    <SearchField
      state={state}
      snapshot={snapshot}
      label="Search our plants"
      text={text}
      onText={setText}
      onChoose={(offer) => setText(offer.text)}
    />
  );
}
// #endregion

// #region useAutocomplete
export function useAutocompleteExample() {
  const [{ offers }, state] = useAutocomplete(() => ({
    sources: [completionsSource(client, { collection: 'plants', label: 'Go on with' })],
  }));
  return (
    <>
      <input aria-label="Type here" onChange={(event) => state.type(event.target.value)} />
      <p>{offers.map(({ text }) => text).join(', ')}</p>
    </>
  );
}
// #endregion

// #region useSearch
export function useSearchExample() {
  const [{ query, answer, status }, search] = useSearch(() => ({ client, collection: 'plants', request: { size: 3 } }));
  return (
    <>
      <input
        aria-label="Type here"
        value={query.q}
        onChange={(event) => search.ask({ ...EMPTY_QUERY, q: event.target.value })}
      />
      <p>
        {status}: {answer?.results.map(({ record }) => String(record.name)).join(', ')}
      </p>
    </>
  );
}
// #endregion

// #region useAddress
export function useAddressExample() {
  const [{ query, answer }, search] = useSearch(() => ({ client, collection: 'plants', request: { size: 3 } }));
  // Null keeps the state out of the address; a page gives the facets it has.
  const change = useAddress(search, null);
  return (
    <>
      <button type="button" data-part="button" onClick={() => change({ ...query, q: 'rose' }, 'push')}>
        Roses
      </button>
      <p>
        {printAddress(query)}: {answer?.total ?? 0}
      </p>
    </>
  );
}
// #endregion

// #region useGivenQuery
export function useGivenQueryExample() {
  const [given, setGiven] = useState<Query>(EMPTY_QUERY);
  const [{ answer }, search] = useSearch(() => ({ client, collection: 'plants', query: given }));
  useGivenQuery(search, given, null);
  return (
    <>
      <button type="button" data-part="button" onClick={() => setGiven({ ...EMPTY_QUERY, q: 'fern' })}>
        The router goes to ferns
      </button>
      <p>{answer?.total ?? 0} found</p>
    </>
  );
}
// #endregion

// #region useSlow
export function useSlowExample() {
  const [isAsking, setAsking] = useState(false);
  const slow = useSlow(isAsking);
  useEffect(() => {
    if (!isAsking) return;
    const timer = setTimeout(() => setAsking(false), 1_500);
    return () => clearTimeout(timer);
  }, [isAsking]);
  return (
    <button type="button" data-part="button" onClick={() => setAsking(true)}>
      {slow ? 'It takes a while …' : 'Ask'}
    </button>
  );
}
// #endregion

// #region useTexts
export function useTextsExample({ answer }: Shop) {
  const { say, figure } = useTexts();
  return (
    <p>
      {say('found', { total: answer.total })}, from {figure(4.5, 'CHF')}
    </p>
  );
}
// #endregion

// #region TextsProvider
export const TextsProviderExample = ({ query, answer }: Shop) => (
  <TextsProvider value={textsOf('de', GERMAN)}>
    <ResultCount answer={answer} asked={query.q} />
  </TextsProvider>
);
// #endregion

// #region useViews
export function useViewsExample({ answer }: Shop) {
  const list = useRef<HTMLOListElement>(null);
  const [seen, setSeen] = useState<string[]>([]);
  const [insights] = useState(() => ({
    active: true,
    view: (_: string, recordId: string) => setSeen((before) => [...before, recordId]),
  }));
  useViews(
    list,
    answer.results.map(({ id }) => id),
    answer.queryId,
    insights,
  );
  return (
    <>
      <ol ref={list}>
        {answer.results.map(({ id, record }) => (
          <li key={id}>{String(record.name)}</li>
        ))}
      </ol>
      <p>Seen for a second: {seen.join(', ')}</p>
    </>
  );
}
// #endregion

const offer: Offer = { id: 'v', kind: 'value', text: 'pink', ranges: [[0, 2]], count: 2, data: { facet: 'colour' } };

// #region OfferRow
export const OfferRowExample = () => <OfferRow offer={offer} facetLabel={() => 'Colour'} />;
// #endregion

// #region OfferPreview
export const OfferPreviewExample = ({ answer: { results } }: Shop) => (
  <OfferPreview
    offer={{ id: 'r', kind: 'record', text: '', data: { collection: 'plants', result: results[0]! } }}
    cardOf={() => ({ card: page.card, currency: 'CHF' })}
  />
);
// #endregion

// #region VoiceButton
export function VoiceButtonExample() {
  const [text, setText] = useState('');
  return (
    <>
      <VoiceButton onText={setText} onAsk={setText} />
      <p>{text}</p>
    </>
  );
}
// #endregion
