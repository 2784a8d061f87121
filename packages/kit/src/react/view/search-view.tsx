import type { InterfacePage, RecordJson, SearchAnswer } from '@yucca/contract';
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type CSSProperties,
  type FormEvent,
  type ReactNode,
} from 'react';
import { addressMap, prefixed, type AddressMap } from '../../address-map.ts';
import { withLabels } from '../../facet-labels.ts';
import type { YuccaClient } from '../../client.ts';
import type { Insights } from '../../insights.ts';
import { createMemory, type Memory, type ViewedRecord } from '../../memory.ts';
import {
  BY_DISTANCE,
  EMPTY_QUERY,
  isStart,
  requestFor,
  withChoices,
  withText,
  withToggled,
  type Query,
} from '../../query.ts';
import type { FindInFacet } from '../facets/facet-list.tsx';
import { NearChoice } from '../map/near-choice.tsx';
import { AppliedChoices } from '../results/applied-choices.tsx';
import { MoreResults } from '../results/more-results.tsx';
import { NothingFound } from '../results/nothing-found.tsx';
import { redirectOf } from '../../redirect.ts';
import { Notice } from '../results/notice.tsx';
import { Pages } from '../results/pages.tsx';
import { ResultCount } from '../results/result-count.tsx';
import { SortChoice } from '../results/sort-choice.tsx';
import { Trouble } from '../results/trouble.tsx';
import { useChanged } from '../use-changed.ts';
import { useAddress, useGivenQuery } from '../use-address.ts';
import { useOwnStyles } from '../use-own-styles.ts';
import { painted } from '../../painted.ts';
import { usePainted } from '../use-painted.ts';
import { useSearch } from '../use-search.ts';
import { useSlow } from '../use-slow.ts';
import { TextsProvider } from '../use-texts.ts';
import type { Navigation } from '../navigation.ts';
import { PageVoice } from './page-voice.tsx';
import { SearchBox } from './search-box.tsx';
import { textsOf } from '../../texts/texts.ts';
import { standingRequest } from '../../standing-request.ts';
import type { SearchSnapshot } from '../../search-state.ts';
import { shelvesBeside } from '../../shelf-requests.ts';
import { IN_PACKAGE } from '../in-package.ts';
import { Filters } from './filters.tsx';
import type { OwnParts } from './own-parts.ts';
import { Results } from './results.tsx';
import { Shelves } from './shelves.tsx';

/** A record that a page leads to: `at` = where its page lies, `link` = where the design of the page leads to. */
export interface RecordPlace {
  collection: string;
  id: string;
  at: string;
  link?: string | undefined;
}

/** `R`: the type of the records. */
export interface SearchViewProps<R extends object = RecordJson> extends OwnParts<R> {
  /** What the page is made of: `client.page(slug)` answers it. */
  page: InterfacePage;
  client: YuccaClient;
  /** What the visitor asks for: at first, and whenever it changes, as after a soft navigation. */
  query?: Query;
  /** The answer to it, when the server has asked already. */
  answer?: SearchAnswer | null;
  /** Where the page itself is. Default: where the interface says. */
  here?: string;
  /** How its state is written in the address. Default: all of it in the query string. */
  map?: AddressMap;
  /**
   * Where its state is kept: in the address (the default), in parameters that begin with a name of its own when several
   * searches share a page, or nowhere.
   */
  address?: { prefix: string } | 'none';
  /** Follows a link to a record, an offer or a redirect in place of the browser: a router's own way to go somewhere. */
  navigate?: (href: string) => void;
  /** The answers of its shelves, in their order, when the server has asked already. */
  beside?: readonly (SearchAnswer | null)[];
  /** The page of a record; undefined = its title leads nowhere. */
  recordHref?: (record: RecordPlace) => string | undefined;
  memory?: Memory;
  /** Tells the server what visitors do with results. Default: nobody is told. */
  insights?: Insights;
  /** The server that pictures lie on whose addresses begin with a slash. Default: the page's own. */
  picturesFrom?: string;
}

const ownRecordPage: NonNullable<SearchViewProps['recordHref']> = ({ id, at, link }) =>
  link ?? `${at}/r/${encodeURIComponent(id)}`;

/**
 * A whole search page: the field with its autocomplete, filters, results, and all that leads from one to the next. It
 * is rendered by the server with its first results; without JavaScript its form and its links ask the server again,
 * with it every keystroke is answered in place.
 */
export function SearchView<R extends object = RecordJson>(props: SearchViewProps<R>) {
  const { page, client, query: first = EMPTY_QUERY, answer: firstAnswer = null, here = page.at } = props;
  // The drop-in says all of these itself.
  const { picturesFrom = '' } = props;
  const recordHref = IN_PACKAGE ? (props.recordHref ?? ownRecordPage) : props.recordHref!;
  const [memory] = useState(() => props.memory ?? createMemory(page.slug));
  const prefix = typeof props.address === 'object' ? props.address.prefix : null;
  const map = useMemo(() => {
    const whole = IN_PACKAGE ? (props.map ?? addressMap(page.facets)) : props.map!;
    return prefix === null ? whole : prefixed(whole, prefix);
  }, [props.map, page.facets, prefix]);
  const { insights } = props;
  const chosen = useRef<string | null>(null);
  // Where it comes after the page, searches before it are nobody's.
  const told = useRef(insights);
  const shown = useRef(page);
  const standing = standingRequest(page);
  const [snapshot, search] = useSearch(() => ({
    // Read with every search.
    get client() {
      return told.current?.noting(client, page.slug, () => chosen.current) ?? client;
    },
    collection: page.collection,
    request: standing,
    grow: page.paging !== 'pages',
    get beside() {
      return shelvesBeside(shown.current);
    },
    answersBeside: props.beside,
    query: first,
    answer: firstAnswer,
  }));
  const newest = useRef(first);
  useEffect(() => {
    shown.current = page;
    newest.current = snapshot.query;
    told.current = insights;
  });
  useChanged([standing, page.shelves], () => search.change(standing));
  const change = useAddress(search, props.address === 'none' ? null : map);
  useGivenQuery(search, first, firstAnswer, props.address !== 'none');
  const follow = IN_PACKAGE
    ? (props.navigate ?? ((href: string): void => window.location.assign(href)))
    : props.navigate!;
  const { query, status, error } = snapshot;
  const answer = useMemo(() => withLabels(snapshot.answer, page.facets), [snapshot.answer, page.facets]);
  // Filters follow the results, not before anybody has seen these.
  const facets = usePainted(answer);
  const slow = useSlow(status === 'loading');
  const texts = useMemo(() => textsOf(page.locale, page.texts), [page.locale, page.texts]);
  const { say } = texts;
  const root = useRef<HTMLDivElement>(null);
  useOwnStyles(root, page.css);
  useEffect(() => {
    if (search.snapshot().answer === null) void search.refresh();
  }, [search]);
  useEffect(() => {
    const { answer: there, answered } = search.snapshot();
    if (there && answered?.q) insights?.search(there.queryId, page.slug);
  }, [search, insights, page.slug]);

  const choose = useCallback((to: Query): void => change(to, 'push'), [change]);
  const navigation: Navigation = {
    hrefOf: (to) => map.write(to, { pathname: here }),
    go: (to) => {
      choose(to);
      if ((root.current?.getBoundingClientRect().top ?? 0) < 0) root.current?.scrollIntoView();
    },
  };
  /** Asks for a text for good; whoever asks for what is found elsewhere is sent there. */
  const ask = (text: string): void => {
    memory.addQuery(text);
    choose(withText(query, text));
    void search.settled().then(() => {
      const { answer: found, answered } = search.snapshot();
      const to = answered?.q === text ? redirectOf(found) : null;
      if (to !== null) follow(to);
    });
  };
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    ask(query.q);
  };
  // What a keystroke does not change is not drawn again: these two know the newest query without being made anew by it.
  const find: FindInFacet = useCallback(
    (facet, q, signal) => client.facetValues(page.collection, facet, q, requestFor(newest.current), signal),
    [client, page.collection],
  );
  const select = useCallback(
    (choices: Query['select']): void => choose(withChoices(newest.current, choices)),
    [choose],
  );
  const open = (record: ViewedRecord): void => {
    memory.addViewed(record);
    const at = page.autocomplete.find(({ collection }) => collection === record.collection)?.at ?? page.at;
    const { collection, id, href: link } = record;
    const href = recordHref({ collection, id, at, link });
    if (href !== undefined) follow(href);
    else choose(withText(query, record.text));
  };
  const hasFilters = page.facets.length > 0;
  const asked = snapshot.answered ?? query;
  const isAtStart = isStart(asked);
  const beginning = isAtStart ? page.start : null;
  const drawn = (render: OwnParts<R>['renderNothing'], usual: ReactNode): ReactNode =>
    IN_PACKAGE && render ? render(snapshot as unknown as SearchSnapshot<R>, usual) : usual;
  const results = beginning?.results !== false && (
    <>
      <div data-part="summary">
        {answer && (
          <>
            <ResultCount answer={answer} asked={snapshot.answered?.q ?? ''} />
            <AppliedChoices query={query} answer={answer} {...navigation} />
          </>
        )}
        <span role="status" data-part="slow">
          {slow && say('searching')}
        </span>
        {answer && (
          <SortChoice
            query={query}
            sorts={[
              ...page.sorts,
              ...(query.near && query.q !== '' ? [{ name: BY_DISTANCE, label: say('nearestFirst') }] : []),
            ]}
            onQuery={choose}
            {...(query.near && { usual: say(query.q === '' ? 'nearest' : 'bestMatch') })}
          />
        )}
      </div>
      {answer && <Notice answer={answer} />}
      {answer && (
        <>
          {answer.total === 0 ? (
            drawn(props.renderNothing, <NothingFound query={asked} answer={answer} {...navigation} />)
          ) : (
            <Results
              {...{ page, answer, recordHref, memory, picturesFrom }}
              near={query.near}
              insights={insights ?? null}
              renderResult={(props as unknown as OwnParts).renderResult}
              navigate={props.navigate ?? null}
            />
          )}
          {page.paging === 'pages' ? (
            <Pages query={query} answer={answer} {...navigation} />
          ) : (
            <MoreResults
              query={query}
              answer={answer}
              loading={status === 'loading'}
              endless={page.paging === 'endless'}
              hrefOf={navigation.hrefOf}
              onMore={(to) => change(to, 'replace')}
            />
          )}
        </>
      )}
    </>
  );
  const type = (text: string): void => change(withText(query, text), 'replace');
  const box = (
    <SearchBox
      page={page}
      client={client}
      memory={memory}
      text={query.q}
      after={() => search.settled().then(() => (search.snapshot().error ? Promise.reject(new Error()) : painted()))}
      total={answer?.total ?? 0}
      facetLabel={(name) => page.facets.find((facet) => facet.name === name)?.label ?? name}
      onText={type}
      onAsk={(text) => {
        chosen.current = text;
        ask(text);
      }}
      onValue={(facet, value) => choose(withToggled(withText(query, ''), facet, value))}
      onRecord={open}
      picturesFrom={picturesFrom}
      onLink={follow}
    />
  );
  return (
    <TextsProvider value={texts}>
      <div
        ref={root}
        lang={page.locale}
        dir={page.dir}
        data-yucca=""
        data-layout={page.layout}
        data-filters-at={page.filters}
        data-density={page.density}
        data-busy={slow}
        style={{ ...page.theme, '--columns': page.columns } as CSSProperties}
      >
        {IN_PACKAGE && props.renderHeader?.(snapshot as unknown as SearchSnapshot<R>)}
        <form method="get" action={here} role="search" onSubmit={submit}>
          {IN_PACKAGE && page.languages && page.locale !== page.languages[0] && (
            <input type="hidden" name="lang" value={page.locale} />
          )}
          <div data-part="bar">
            {IN_PACKAGE && props.renderField ? props.renderField({ onText: type, onAsk: ask }, box) : box}
            {page.typing?.voice && <PageVoice locale={page.locale} onText={type} onAsk={ask} />}
            <button type="submit" data-part="submit">
              {say('search')}
            </button>
          </div>
          {page.geo !== null && page.places.length > 0 && (
            <NearChoice query={query} places={page.places} onQuery={choose} />
          )}
          <div data-part="body" data-filters={hasFilters}>
            {facets &&
              hasFilters &&
              drawn(
                props.renderFilters,
                <Filters
                  {...{ page, find }}
                  answer={facets}
                  select={query.select}
                  onSelect={select}
                  renderFacet={props.renderFacet}
                />,
              )}
            <section id="results" data-part="results" aria-label={say('results')}>
              {isAtStart && drawn(props.renderStart, beginning?.text && <p data-part="start">{beginning.text}</p>)}
              {error && <Trouble error={error} hasResults={answer !== null} onRetry={() => void search.refresh()} />}
              {page.shelves ? (
                <Shelves
                  {...{ page, recordHref, memory, picturesFrom }}
                  query={answer && asked}
                  beside={snapshot.beside}
                  navigate={props.navigate ?? null}
                >
                  {results}
                </Shelves>
              ) : (
                results
              )}
            </section>
          </div>
        </form>
      </div>
    </TextsProvider>
  );
}
