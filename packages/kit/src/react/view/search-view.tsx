import type { InterfacePage, SearchAnswer, SearchResult } from '@yucca/contract';
import {
  memo,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type CSSProperties,
  type FormEvent,
  type MouseEvent,
  type ReactNode,
} from 'react';
import { addressMap, prefixed, type AddressMap } from '../../address-map.ts';
import { shownHit } from '../../card.ts';
import { withLabels } from '../../facet-labels.ts';
import type { YuccaClient } from '../../client.ts';
import type { Insights } from '../../insights.ts';
import { createMemory, type Memory, type ViewedRecord } from '../../memory.ts';
import { BY_DISTANCE, EMPTY_QUERY, requestFor, withText, withToggled, type Query } from '../../query.ts';
import type { FindInFacet } from '../facets/facet-list.tsx';
import { NearChoice } from '../map/near-choice.tsx';
import { ResultMap } from '../map/result-map.tsx';
import { AppliedChoices } from '../results/applied-choices.tsx';
import { MoreResults } from '../results/more-results.tsx';
import { NothingFound } from '../results/nothing-found.tsx';
import { redirectOf } from '../../redirect.ts';
import { Notice } from '../results/notice.tsx';
import { Pages } from '../results/pages.tsx';
import { ResultCard } from '../results/result-card.tsx';
import { ResultCount } from '../results/result-count.tsx';
import { SortChoice } from '../results/sort-choice.tsx';
import { Trouble } from '../results/trouble.tsx';
import { useChanged } from '../use-changed.ts';
import { useAddress, useGivenQuery } from '../use-address.ts';
import { useOwnStyles } from '../use-own-styles.ts';
import { painted, usePainted } from '../use-painted.ts';
import { useSearch } from '../use-search.ts';
import { useSlow } from '../use-slow.ts';
import { TextsProvider } from '../use-texts.ts';
import { useViews } from '../use-views.ts';
import { isPlainClick, type Navigation } from '../navigation.ts';
import { SearchBox } from './search-box.tsx';
import { textsOf } from '../../texts/texts.ts';
import { standingRequest } from '../../standing-request.ts';
import { Filters } from './filters.tsx';

export interface SearchViewProps {
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
  /** The page of a record; undefined = its title leads nowhere. */
  recordHref?: (record: { collection: string; id: string; at: string }) => string | undefined;
  memory?: Memory;
  /** Draws one result; `card` is what would be drawn. Default: that. Keep it the same from one time to the next. */
  renderResult?: (result: SearchResult, card: ReactNode) => ReactNode;
  /** Tells the server what visitors do with results. Default: nobody is told. */
  insights?: Insights;
  /** The server that pictures lie on whose addresses begin with a slash. Default: the page's own. */
  picturesFrom?: string;
}

const ownRecordPage: NonNullable<SearchViewProps['recordHref']> = ({ id, at }) => `${at}/r/${encodeURIComponent(id)}`;

/**
 * A whole search page: the field with its autocomplete, filters, results, and all that leads from one to the next. It
 * is rendered by the server with its first results; without JavaScript its form and its links ask the server again,
 * with it every keystroke is answered in place.
 */
export function SearchView(props: SearchViewProps) {
  const { page, client, query: first = EMPTY_QUERY, answer: firstAnswer = null, here = page.at } = props;
  const { recordHref = ownRecordPage, picturesFrom = '' } = props;
  const [memory] = useState(() => props.memory ?? createMemory(page.slug));
  const prefix = typeof props.address === 'object' ? props.address.prefix : null;
  const map = useMemo(() => {
    const whole = props.map ?? addressMap(page.facets);
    return prefix === null ? whole : prefixed(whole, prefix);
  }, [props.map, page.facets, prefix]);
  const { insights } = props;
  const chosen = useRef<string | null>(null);
  // Where it comes after the page, searches before it are nobody's.
  const told = useRef(insights);
  const [snapshot, search] = useSearch(() => ({
    // Read with every search.
    get client() {
      return told.current?.noting(client, page.slug, () => chosen.current) ?? client;
    },
    collection: page.collection,
    request: standingRequest(page),
    grow: page.paging !== 'pages',
    query: first,
    answer: firstAnswer,
  }));
  const standing = standingRequest(page);
  useChanged(standing, () => search.change(standing));
  const change = useAddress(search, props.address === 'none' ? null : map);
  useGivenQuery(search, first, firstAnswer);
  const follow = props.navigate ?? ((href: string): void => window.location.assign(href));
  const { query, status, error } = snapshot;
  const newest = useRef(query);
  useEffect(() => {
    newest.current = query;
    told.current = insights;
  });
  const answer = useMemo(() => withLabels(snapshot.answer, page.facets), [snapshot.answer, page.facets]);
  // Filters are drawn after the results, not before anybody sees these.
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

  const navigation: Navigation = {
    hrefOf: (to) => map.write(to, { pathname: here }),
    go: (to) => {
      change(to, 'push');
      if ((root.current?.getBoundingClientRect().top ?? 0) < 0) root.current?.scrollIntoView();
    },
  };
  const choose = (to: Query): void => change(to, 'push');
  /** Asks for a text for good; whoever asks for what is found elsewhere is sent there. */
  const ask = (text: string): void => {
    change(withText(query, text), 'push');
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
    (choices: Query['select']): void => change({ ...newest.current, select: choices, page: 1 }, 'push'),
    [change],
  );
  const open = (record: ViewedRecord): void => {
    memory.addViewed(record);
    const at = page.autocomplete.find(({ collection }) => collection === record.collection)?.at ?? page.at;
    const href = recordHref({ ...record, at });
    if (href !== undefined) follow(href);
    else change(withText(query, record.text), 'push');
  };
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
        <form method="get" action={here} role="search" onSubmit={submit}>
          {page.languages && page.locale !== page.languages[0] && (
            <input type="hidden" name="lang" value={page.locale} />
          )}
          <div data-part="bar">
            <SearchBox
              page={page}
              client={client}
              memory={memory}
              text={query.q}
              after={() =>
                search.settled().then(() => (search.snapshot().error ? Promise.reject(new Error()) : painted()))
              }
              total={answer?.total ?? 0}
              facetLabel={(name) => page.facets.find((facet) => facet.name === name)?.label ?? name}
              onText={(text) => change(withText(query, text), 'replace')}
              onAsk={(text) => {
                chosen.current = text;
                ask(text);
              }}
              onValue={(facet, value) => change(withToggled(withText(query, ''), facet, value), 'push')}
              onRecord={open}
              picturesFrom={picturesFrom}
            />
            <button type="submit" data-part="submit">
              {say('search')}
            </button>
          </div>
          {page.geo !== null && page.places.length > 0 && (
            <NearChoice query={query} places={page.places} onQuery={choose} />
          )}
          <div data-part="body" data-filters={page.facets.length > 0}>
            {facets && page.facets.length > 0 && (
              <Filters page={page} answer={facets} select={query.select} onSelect={select} find={find} />
            )}
            <section id="results" data-part="results" aria-label={say('results')}>
              <div data-part="summary">
                {answer && <ResultCount answer={answer} asked={snapshot.answered?.q ?? ''} />}
                {answer && <AppliedChoices query={query} answer={answer} {...navigation} />}
                <span role="status" data-part="slow">
                  {slow && say('searching')}
                </span>
                <SortChoice
                  query={query}
                  sorts={[
                    ...page.sorts,
                    ...(query.near && query.q !== '' ? [{ name: BY_DISTANCE, label: say('nearestFirst') }] : []),
                  ]}
                  onQuery={choose}
                  {...(query.near && { usual: say(query.q === '' ? 'nearest' : 'bestMatch') })}
                />
              </div>
              {answer && <Notice answer={answer} />}
              {error && <Trouble error={error} hasResults={answer !== null} onRetry={() => void search.refresh()} />}
              {answer &&
                (answer.total === 0 ? (
                  <NothingFound query={snapshot.answered ?? query} answer={answer} {...navigation} />
                ) : (
                  <Results
                    {...{ page, answer, recordHref, memory, picturesFrom }}
                    near={query.near}
                    insights={insights ?? null}
                    renderResult={props.renderResult ?? null}
                    navigate={props.navigate ?? null}
                  />
                ))}
              {answer && page.paging === 'pages' && <Pages query={query} answer={answer} {...navigation} />}
              {answer && page.paging !== 'pages' && (
                <MoreResults
                  query={query}
                  answer={answer}
                  loading={status === 'loading'}
                  endless={page.paging === 'endless'}
                  hrefOf={navigation.hrefOf}
                  onMore={(to) => change(to, 'replace')}
                />
              )}
            </section>
          </div>
        </form>
      </div>
    </TextsProvider>
  );
}

interface ResultsProps {
  page: InterfacePage;
  answer: SearchAnswer;
  near: Query['near'];
  recordHref: NonNullable<SearchViewProps['recordHref']>;
  memory: Memory;
  insights: Insights | null;
  renderResult: SearchViewProps['renderResult'] | null;
  navigate: SearchViewProps['navigate'] | null;
  picturesFrom: string;
}

const NOBODY_TOLD: Pick<Insights, 'active' | 'click' | 'view'> = { active: false, click: () => {}, view: () => {} };

/** Results drawn at once with an answer, about as many as are in sight; the rest follows when those are on screen. */
const AT_ONCE = 9;

/** The results, with a map beside them where they have places. */
const Results = memo(function Results(props: ResultsProps) {
  const { page, answer, near, recordHref, memory, insights, renderResult, navigate, picturesFrom } = props;
  const told = insights ?? NOBODY_TOLD;
  const list = useRef<HTMLOListElement>(null);
  const later = usePainted(answer);
  const rows = useMemo(
    () => [
      ...answer.results.slice(0, AT_ONCE).map((result) => ({ result, of: answer })),
      ...later.results.slice(AT_ONCE, answer.results.length).map((result) => ({ result, of: later })),
    ],
    [answer, later],
  );
  const ids = useMemo(() => rows.map(({ result }) => result.id), [rows]);
  // Grown pages begin with the first result, numbered ones further down.
  const firstPlace = answer.results.length > answer.size ? 0 : (answer.page - 1) * answer.size;
  useViews(list, ids, answer.queryId, told, firstPlace);
  const [pointed, setPointed] = useState<string | null>(null);
  const { geo } = page;
  const withMap = page.layout === 'places' && geo !== null;
  return (
    <div data-part="found">
      <ol ref={list} data-part="list">
        {rows.map(({ result, of }, i) => (
          <ResultRow
            key={`${i < AT_ONCE ? 'now' : 'later'}/${result.id}`}
            {...{ result, page, recordHref, memory, told, renderResult, navigate, picturesFrom, i }}
            queryId={of.queryId}
            place={firstPlace + i + 1}
            pointed={result.id === pointed}
            onPoint={withMap ? setPointed : null}
          />
        ))}
      </ol>
      {withMap && (
        <ResultMap
          results={answer.results}
          geo={geo}
          near={near}
          pointed={pointed}
          onPoint={setPointed}
          nameOf={(result) => shownHit(result, page.card).title.text}
        />
      )}
    </div>
  );
});

interface ResultRowProps extends Pick<
  ResultsProps,
  'page' | 'recordHref' | 'memory' | 'renderResult' | 'navigate' | 'picturesFrom'
> {
  result: SearchResult;
  told: typeof NOBODY_TOLD;
  queryId: string;
  /** Its row on the page, from 0. */
  i: number;
  /** Its place among all results, from 1. */
  place: number;
  pointed: boolean;
  /** With a map, which points at it too. */
  onPoint: ((id: string | null) => void) | null;
}

const ResultRow = memo(function ResultRow(props: ResultRowProps) {
  const { result, page, recordHref, memory, told, queryId, i, place, pointed, onPoint, renderResult } = props;
  const { collection, at } = page;
  const hit = shownHit(result, page.card, props.picturesFrom);
  const href = recordHref({ collection, id: result.id, at });
  const open = (event: MouseEvent): void => {
    const { title, detail, picture } = shownHit(result, page.card);
    memory.addViewed({
      collection,
      id: result.id,
      text: title.text,
      ...(detail && { detail: detail.text }),
      ...(picture && { picture }),
    });
    told.click(queryId, result.id, place);
    if (!props.navigate || !isPlainClick(event)) return;
    event.preventDefault();
    props.navigate(href!);
  };
  const card = (
    <ResultCard
      hit={hit}
      href={href}
      onOpen={open}
      currency={page.currency}
      distanceM={result.distanceM}
      eager={i < 6}
      first={i < (page.columns ?? 3)}
    />
  );
  return (
    <li
      data-pointed={pointed}
      {...(onPoint && {
        'data-number': i + 1,
        onPointerEnter: () => onPoint(result.id),
        onPointerLeave: () => onPoint(null),
      })}
    >
      {renderResult ? renderResult(result, card) : card}
    </li>
  );
});
