/** Where the names come from that written code uses. Types begin with a star. */
const SOURCES: readonly (readonly [from: string, names: string])[] = [
  [
    '@yucca/kit',
    `addressMap Autocomplete chosenValues completionsSource counted distance facetValues figureText isRange
    pageNumbers redirectOf SearchState shownChoices withPage withRange withSort createClient createMemory
    EMPTY_QUERY fieldsOf inOrder isStart parseAddress pagesUpTo pastQueriesSource pointAt printAddress recordLink recordsSource requestFor shelvesBeside shownCell shownHit shownRow sourcesFor viewedSource withChoices
    withLabels withText withToggled BY_DISTANCE *Card *Choices *Query *SearchAnswer *SearchResult
    *InterfacePage *PageShelf *SearchSnapshot *ShownCell *ShownHit *ShownText *Source *ViewedRecord`,
  ],
  ['@yucca/kit/insights', 'createInsights'],
  [
    '@yucca/kit/react',
    `AppliedChoices Badges FacetList FilterSheet Marked MoreResults NearChoice NothingFound Notice OfferPreview
    Pages QueryField ResultCount ResultMap SearchView SortChoice TextsProvider Trouble useAddress useGivenQuery useSearch useSlow
    useViews *FindInFacet *Navigation *PreviewCard`,
  ],
  ['@yucca/kit/react/voice', 'VoiceButton'],
  ['react', 'useEffect useRef useState *MouseEvent'],
];

/**
 * The import statements for the names that a text uses: those of the kit and of React, and with `own` those of other
 * written files, by where they are.
 */
export function importsOf(code: string, own: Readonly<Record<string, string>> = {}): string {
  const used = (name: string): boolean => new RegExp(`(?<![\\w'"-]|(?<!\\.\\.)\\.)${name}(?![\\w:'"-])`).test(code);
  return [...SOURCES, ...Object.entries(own)]
    .flatMap(([from, names]) => {
      const found = names.split(/\s+/).filter((name) => used(name.replace('*', '')));
      if (found.length === 0) return [];
      const onlyTypes = found.every((name) => name.startsWith('*'));
      const list = found.map((name) => name.replace('*', onlyTypes ? '' : 'type ')).join(', ');
      return [`import ${onlyTypes ? 'type ' : ''}{ ${list} } from '${from}';\n`];
    })
    .join('');
}
