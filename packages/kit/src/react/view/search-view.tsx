import type { InterfacePage, SearchAnswer, SearchResult } from '@yucca/contract';
import { memo, useCallback, useEffect, useMemo, useRef, useState, type FormEvent, type ReactNode } from 'react';
import { addressMap, type AddressMap } from '../../address-map.ts';
import { shownHit } from '../../card.ts';
import type { YuccaClient } from '../../client.ts';
import type { Insights } from '../../insights.ts';
import { createMemory, type Memory, type ViewedRecord } from '../../memory.ts';
import { BY_DISTANCE, EMPTY_QUERY, isRange, requestFor, withText, withToggled, type Query } from '../../query.ts';
import { FacetList, type FindInFacet } from '../facets/facet-list.tsx';
import { counted } from '../figures.ts';
import { NearChoice } from '../map/near-choice.tsx';
import { ResultMap } from '../map/result-map.tsx';
import { AppliedChoices } from '../results/applied-choices.tsx';
import { MoreResults } from '../results/more-results.tsx';
import { NothingFound } from '../results/nothing-found.tsx';
import { Notice, redirectOf } from '../results/notice.tsx';
import { Pages } from '../results/pages.tsx';
import { ResultCard } from '../results/result-card.tsx';
import { ResultCount } from '../results/result-count.tsx';
import { SortChoice } from '../results/sort-choice.tsx';
import { Trouble } from '../results/trouble.tsx';
import { useAddress } from '../use-address.ts';
import { painted, usePainted } from '../use-painted.ts';
import { useSearch } from '../use-search.ts';
import { useSlow } from '../use-slow.ts';
import { useViews } from '../use-views.ts';
import type { Navigation } from '../navigation.ts';
import { SearchBox } from './search-box.tsx';
import { standingRequest } from '../../standing-request.ts';
import { useSheet } from './use-sheet.ts';

export interface SearchViewProps {
  /** What the page is made of: `client.page(slug)` answers it. */
  page: InterfacePage;
  client: YuccaClient;
  /** What the visitor asks for at first. */
  query?: Query;
  /** The answer to it, when the server has asked already. */
  answer?: SearchAnswer | null;
  /** Where the page itself is. Default: where the interface says. */
  here?: string;
  /** How its state is written in the address. Default: all of it in the query string. */
  map?: AddressMap;
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

const BY_DISTANCE_CHOICE = { name: BY_DISTANCE, label: 'Nearest first' };

const ownRecordPage: NonNullable<SearchViewProps['recordHref']> = ({ id, at }) => `${at}/r/${encodeURIComponent(id)}`;

/**
 * A whole search page: the field with its autocomplete, filters, results, and all that leads from one to the next. It is
 * rendered by the server with its first results; without JavaScript its form and its links ask the server again, with it
 * every keystroke is answered in place.
 */
export function SearchView(props: SearchViewProps) {
  const { page, client, query: first = EMPTY_QUERY, answer: firstAnswer = null, here = page.at } = props;
  const { recordHref = ownRecordPage, picturesFrom = '' } = props;
  const [memory] = useState(() => props.memory ?? createMemory(page.slug));
  const map = useMemo(() => props.map ?? addressMap(page.facets), [props.map, page.facets]);
  const [snapshot, search] = useSearch(() => ({
    client,
    collection: page.collection,
    request: standingRequest(page),
    grow: page.paging !== 'pages',
    query: first,
    answer: firstAnswer,
  }));
  const change = useAddress(search, map);
  const { query, status, error, answer } = snapshot;
  // Filters are drawn after the results, not before anybody sees these.
  const facets = usePainted(answer);
  const slow = useSlow(status === 'loading');
  const root = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (search.snapshot().answer === null) void search.refresh();
  }, [search]);

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
      if (to !== null) window.location.assign(to);
    });
  };
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    ask(query.q);
  };
  // What a keystroke does not change is not drawn again: these two know the newest query without being made anew by it.
  const newest = useRef(query);
  useEffect(() => {
    newest.current = query;
  });
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
    if (href !== undefined) window.location.assign(href);
    else change(withText(query, record.text), 'push');
  };
  return (
    <div ref={root} data-yucca="" data-layout={page.layout} data-busy={slow}>
      <form method="get" action={here} role="search" onSubmit={submit}>
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
            onAsk={ask}
            onValue={(facet, value) => change(withToggled(withText(query, ''), facet, value), 'push')}
            onRecord={open}
            picturesFrom={picturesFrom}
          />
          <button type="submit" data-part="submit">
            Search
          </button>
        </div>
        {page.geo !== null && page.places.length > 0 && (
          <NearChoice query={query} places={page.places} onQuery={choose} />
        )}
        <div data-part="body" data-filters={page.facets.length > 0}>
          {facets && page.facets.length > 0 && (
            <Filters page={page} answer={facets} select={query.select} onSelect={select} find={find} />
          )}
          <section id="results" data-part="results" aria-label="Results">
            <div data-part="summary">
              {answer && <ResultCount answer={answer} asked={snapshot.answered?.q ?? ''} />}
              {answer && <AppliedChoices query={query} answer={answer} {...navigation} />}
              <span role="status" data-part="slow">
                {slow && 'Searching …'}
              </span>
              <SortChoice
                query={query}
                sorts={[...page.sorts, ...(query.near && query.q !== '' ? [BY_DISTANCE_CHOICE] : [])]}
                onQuery={choose}
                {...(query.near && { usual: query.q === '' ? 'Nearest' : 'Best match' })}
              />
            </div>
            {answer && <Notice answer={answer} />}
            {status === 'failed' && <Trouble error={error} onRetry={() => void search.refresh()} />}
            {answer &&
              (answer.total === 0 ? (
                <NothingFound query={snapshot.answered ?? query} answer={answer} {...navigation} />
              ) : (
                <Results
                  {...{ page, answer, recordHref, memory, picturesFrom }}
                  near={query.near}
                  insights={props.insights ?? null}
                  renderResult={props.renderResult ?? null}
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
  );
}

interface FiltersProps {
  page: InterfacePage;
  answer: SearchAnswer;
  select: Query['select'];
  onSelect: (select: Query['select']) => void;
  find: FindInFacet;
}

/** The filters: beside the results, or on a narrow screen in a sheet. Without JavaScript a link leads to them. */
const Filters = memo(function Filters({ page, answer, select, onSelect, find }: FiltersProps) {
  const { ref, open, show, close } = useSheet();
  const query = useMemo(() => ({ ...EMPTY_QUERY, select }), [select]);
  const chosen = Object.values(select).reduce((sum, choice) => sum + (isRange(choice) ? 1 : choice.length), 0);
  return (
    <div data-part="filters" data-open={open}>
      <a
        href="#filters"
        data-part="button"
        data-role="open"
        onClick={(event) => {
          event.preventDefault();
          show();
        }}
      >
        Filters{chosen > 0 && ` (${chosen})`}
      </a>
      <div
        id="filters"
        ref={ref}
        data-part="sheet"
        tabIndex={-1}
        {...(open && { role: 'dialog', 'aria-modal': true, 'aria-label': 'Filters' })}
      >
        <div data-part="facets">
          <FacetList
            answer={answer}
            query={query}
            names={page.facets.map(({ name }) => name)}
            onQuery={(to) => onSelect(to.select)}
            find={find}
          />
        </div>
        <p data-part="sheet-end">
          <a
            href="#results"
            data-part="button"
            onClick={(event) => {
              if (!open) return;
              event.preventDefault();
              close();
            }}
          >
            See {counted(answer.total, 'result')}
          </a>
        </p>
        <noscript>
          <button type="submit" data-part="button">
            Apply filters
          </button>
        </noscript>
      </div>
    </div>
  );
});

interface ResultsProps {
  page: InterfacePage;
  answer: SearchAnswer;
  near: Query['near'];
  recordHref: NonNullable<SearchViewProps['recordHref']>;
  memory: Memory;
  insights: Insights | null;
  renderResult: SearchViewProps['renderResult'] | null;
  picturesFrom: string;
}

const NOBODY_TOLD: Pick<Insights, 'active' | 'click' | 'view'> = { active: false, click: () => {}, view: () => {} };

/** Results drawn at once with an answer, about as many as are in sight; the rest follows when those are on screen. */
const AT_ONCE = 9;

/** The results, with a map beside them where they have places. */
const Results = memo(function Results(props: ResultsProps) {
  const { page, answer, near, recordHref, memory, insights, renderResult, picturesFrom } = props;
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
            {...{ result, page, recordHref, memory, told, renderResult, picturesFrom, i }}
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
  'page' | 'recordHref' | 'memory' | 'renderResult' | 'picturesFrom'
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
  const open = (): void => {
    const { title, detail, picture } = shownHit(result, page.card);
    memory.addViewed({
      collection,
      id: result.id,
      text: title.text,
      ...(detail && { detail: detail.text }),
      ...(picture && { picture }),
    });
    told.click(queryId, result.id, place);
  };
  const card = (
    <ResultCard
      hit={hit}
      href={recordHref({ collection, id: result.id, at })}
      onOpen={open}
      currency={page.currency}
      distanceM={result.distanceM}
      eager={i < 6}
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
