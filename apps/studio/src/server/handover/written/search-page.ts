import type { InterfacePage } from '@yucca/contract';
import { textsOf } from '@yucca/kit/texts';
import { isWholeView } from './design';
import { hasOwnTexts } from './facts';
import { importsOf } from './imports';
import { literal } from './literal';

/** Where the page gets its first query and answer from. */
export type Begins = 'in the browser' | 'on the server';

/** What a page is given that a server has asked for already. */
const FROM_THE_SERVER = `interface SearchPageProps {
  /** What the address asks for. */
  query: Query;
  /** The answer to it. */
  answer: SearchAnswer;
}

`;

/** The page: its state, and its parts in the places the design has for them. */
export function searchPageFile(page: InterfacePage, begins: Begins): string {
  if (isWholeView(page)) return wholeViewFile(page, begins);
  const { say } = textsOf(page.locale, page.texts);
  const { paging, geo, places, facets } = page;
  const grows = paging !== 'pages';
  const hasNear = geo !== null && places.length > 0;
  const hasFacets = facets.length > 0;
  const onServer = begins === 'on the server';
  const isOwn = hasOwnTexts(page);
  const body = `
${onServer ? FROM_THE_SERVER : ''}/** The search page. */
export function SearchPage(${onServer ? '{ query: first, answer: firstAnswer }: SearchPageProps' : ''}) {
  const [snapshot, search] = useSearch(() => ({
    client: visitorClient,
    collection: COLLECTION,
    request: REQUEST,
    ${grows ? 'grow: true,' : ''}
    ${onServer ? 'query: first,\nanswer: firstAnswer,' : 'query: parseAddress(window.location.search, FACETS).query,'}
  }));
  const change = useAddress(search, FACETS);
  ${
    onServer
      ? `useGivenQuery(search, first, firstAnswer);
  // The server has asked; this is whose answer it was.
  useEffect(() => {
    if (first.q !== '') insights.search(firstAnswer.queryId, ${literal(page.slug)});
  }, [first, firstAnswer]);`
      : `useEffect(() => {
    void search.refresh();
  }, [search]);`
  }
  const { query, status, error } = snapshot;
  const answer = withLabels(snapshot.answer, FACETS);
  const slow = useSlow(status === 'loading');
  const navigation: Navigation = { hrefOf, go: (to) => change(to, 'push') };

  /** Asks for good; whoever asks for what stands elsewhere is sent there. */
  const ask = async (text: string): Promise<void> => {
    navigation.go(withText(query, text));
    await search.settled();
    const { answer: found, answered } = search.snapshot();
    const elsewhere = answered?.q === text ? redirectOf(found) : null;
    if (elsewhere !== null) window.location.assign(elsewhere);
  };
  const open = (record: ViewedRecord): void => {
    memory.addViewed(record);
    window.location.assign(${page.link === undefined ? '' : 'record.href ?? '}recordHref(record));
  };
  return (
    ${isOwn ? '<TextsProvider value={PAGE_TEXTS}>' : ''}
    <div data-yucca="" ${isOwn ? `lang=${literal(page.locale ?? 'en')} dir=${literal(page.dir ?? 'ltr')} ` : ''}data-layout=${literal(page.layout)} data-filters-at=${literal(page.filters ?? 'left')} data-density=${literal(page.density ?? 'roomy')} data-busy={slow}>
      <form
        method="get"
        role="search"
        onSubmit={(event) => {
          event.preventDefault();
          void ask(query.q);
        }}
      >
        <div data-part="bar">
          <Field
            text={query.q}
            total={answer?.total ?? 0}
            after={() => search.settled()}
            onText={(text) => change(withText(query, text), 'replace')}
            onAsk={(text) => void ask(text)}
            onValue={(facet, value) => navigation.go(withToggled(withText(query, ''), facet, value))}
            onRecord={open}
          />
          <button type="submit" data-part="submit">
            {TEXTS.submit}
          </button>
        </div>
        ${hasNear ? '<NearChoice query={query} places={PLACES} onQuery={navigation.go} />' : ''}
        <div data-part="body" data-filters="${String(hasFacets)}">
          ${
            hasFacets
              ? `{answer && (
            <Filters
              answer={answer}
              select={query.select}
              onSelect={(select) => navigation.go(withChoices(query, select))}
              find={(facet, q, signal) => client.facetValues(COLLECTION, facet, q, requestFor(query), signal)}
            />
          )}`
              : ''
          }
          <section id="results" data-part="results" aria-label={${literal(say('results'))}}>
            <div data-part="summary">
              {answer && <ResultCount answer={answer} asked={snapshot.answered?.q ?? ''} />}
              {answer && <AppliedChoices query={query} answer={answer} {...navigation} />}
              <span role="status" data-part="slow">
                {slow && TEXTS.searching}
              </span>
              ${sortChoice(page)}
            </div>
            {answer && <Notice answer={answer} />}
            {error && <Trouble error={error} hasResults={answer !== null} onRetry={() => void search.refresh()} />}
            {answer &&
              (answer.total === 0 ? (
                <NothingFound query={snapshot.answered ?? query} answer={answer} {...navigation} />
              ) : (
                <Results answer={answer} ${page.layout === 'places' && geo !== null ? 'near={query.near}' : ''} />
              ))}
            ${
              grows
                ? `{answer && (
              <MoreResults
                query={query}
                answer={answer}
                loading={status === 'loading'}
                ${paging === 'endless' ? 'endless' : ''}
                hrefOf={hrefOf}
                onMore={(to) => change(to, 'replace')}
              />
            )}`
                : '{answer && <Pages query={query} answer={answer} {...navigation} />}'
            }
          </section>
        </div>
      </form>
    </div>
    ${isOwn ? '</TextsProvider>' : ''}
  );
}
`;
  const own = {
    './facets': 'FACETS PLACES SORTS',
    './field': 'Field',
    './filters': 'Filters',
    './results': 'Results',
    './texts': 'PAGE_TEXTS TEXTS',
    './yucca': 'client visitorClient COLLECTION hrefOf insights memory recordHref REQUEST',
  };
  return importsOf(body, own) + body;
}

/** The page as the kit's whole view: what stands on it is in its design. */
function wholeViewFile(page: InterfacePage, begins: Begins): string {
  const onServer = begins === 'on the server';
  const body = `
${onServer ? FROM_THE_SERVER : ''}/** The search page, as \`design.ts\` says it. */
export function SearchPage(${onServer ? '{ query, answer }: SearchPageProps' : ''}) {
  ${onServer ? '' : 'const [{ query }] = useState(() => parseAddress(window.location.search, FACETS));'}
  return (
    <SearchView
      page={PAGE}
      client={client}
      query={query}
      ${onServer ? 'answer={answer}' : ''}
      here="./"
      memory={memory}
      insights={insights}
      recordHref={({ link, ...record }) => link ?? recordHref(record)}
      picturesFrom={SERVER}
    />
  );
}
`;
  const own = {
    './design': 'PAGE',
    './facets': 'FACETS',
    './yucca': 'client insights memory recordHref SERVER',
  };
  return importsOf(body, own) + body;
}

/** The choice of an order, with the order by distance where there is one. */
function sortChoice({ sorts, geo, places, locale, texts }: InterfacePage): string {
  const { say } = textsOf(locale, texts);
  if (geo === null || places.length === 0)
    return sorts.length === 0 ? '' : '<SortChoice query={query} sorts={SORTS} onQuery={navigation.go} />';
  return `<SortChoice
    query={query}
    sorts={[${sorts.length > 0 ? '...SORTS, ' : ''}...(query.near && query.q !== '' ? [{ name: BY_DISTANCE, label: ${literal(say('nearestFirst'))} }] : [])]}
    onQuery={navigation.go}
    {...(query.near && { usual: query.q === '' ? ${literal(say('nearest'))} : ${literal(say('bestMatch'))} })}
  />`;
}

/** The filters: beside the results, or on a narrow screen in a sheet. */
export function filtersFile(): string {
  const body = `
interface FiltersProps {
  answer: SearchAnswer;
  select: Choices;
  onSelect: (select: Choices) => void;
  find: FindInFacet;
}

/** The filters: beside the results, or on a narrow screen in a sheet. */
export function Filters({ answer, select, onSelect, find }: FiltersProps) {
  return (
    <FilterSheet select={select} total={answer.total}>
      <FacetList
        answer={answer}
        select={select}
        names={FACETS.map(({ name }) => name)}
        looks={FACETS}
        onSelect={onSelect}
        find={find}
      />
    </FilterSheet>
  );
}
`;
  return importsOf(body, { './facets': 'FACETS' }) + body;
}

/** The list of results, with a map beside it where the design has one. */
export function resultsFile(page: InterfacePage): string {
  const geo = page.layout === 'places' ? page.geo : null;
  const body = `
${
  geo === null
    ? 'interface ResultsProps {\n  answer: SearchAnswer;\n}'
    : 'interface ResultsProps {\n  answer: SearchAnswer;\n  /** Where distances are measured from. */\n  near: Query["near"];\n}'
}

/** The results${geo === null ? '' : ', with a map beside them'}. */
export function Results({ answer${geo === null ? '' : ', near'} }: ResultsProps) {
  const list = useRef<HTMLOListElement>(null);
  ${geo === null ? '' : 'const [pointed, setPointed] = useState<string | null>(null);'}
  // Grown pages begin with the first result, numbered ones further down.
  const before = answer.results.length > answer.size ? 0 : (answer.page - 1) * answer.size;
  const ids = answer.results.map(({ id }) => id);
  useViews(list, ids, answer.queryId, insights, before);
  const open = (result: SearchResult, row: number): void => {
    const { text, detail, picture${page.link === undefined ? '' : ', href'} } = shownRow(result, CARD, SERVER${page.link === undefined ? '' : `, { link: ${literal(page.link)} }`});
    memory.addViewed({ collection: COLLECTION, id: result.id, text, ...(detail && { detail }), ...(picture && { picture })${page.link === undefined ? '' : ', ...(href && { href })'} });
    insights.click(answer.queryId, result.id, before + row + 1);
  };
  return (
    <div data-part="found">
      <ol ref={list} data-part="list">
        {answer.results.map((result, row) => (
          <li key={result.id}${
            geo === null
              ? ''
              : ' data-number={row + 1} data-pointed={result.id === pointed} onPointerEnter={() => setPointed(result.id)} onPointerLeave={() => setPointed(null)}'
          }>
            <ResultCard result={result}${page.card.picture === null ? '' : ' row={row}'} onOpen={() => open(result, row)} />
          </li>
        ))}
      </ol>
      ${
        geo === null
          ? ''
          : `<ResultMap
        results={answer.results}
        geo={${literal(geo)}}
        near={near}
        pointed={pointed}
        onPoint={setPointed}
        nameOf={(result) => shownRow(result, CARD).text}
      />`
      }
    </div>
  );
}
`;
  const own = { './card': 'CARD ResultCard', './yucca': 'COLLECTION insights memory SERVER' };
  return importsOf(body, own) + body;
}
