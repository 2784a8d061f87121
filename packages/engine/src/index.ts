export { FilterError } from './filter/lexer.ts';
export { readFilter } from './filter/filter.ts';
export { recordsThat } from './filter/on-records.ts';
export { parseFilter } from './filter/parse.ts';
export { checkRequest } from './query/check.ts';
export {
  SearchCancelledError,
  SearchRequestError,
  type EngineAnswer,
  type Generation,
  type SearchContext,
} from './query/generation.ts';
export { keysPage, keysWhere } from './query/keys-where.ts';
export { sampleWords } from './query/sample-words.ts';
export { searchFacet } from './query/facet-search.ts';
export { search } from './query/search.ts';
export { typoExamples } from './query/typo-examples.ts';
export { whereabouts } from './query/whereabouts.ts';
export { isWorthOffering, suggest } from './query/suggest.ts';
export { shownPart } from './record/show.ts';
export { SegmentBuilder, type SourceRecord } from './segment/builder.ts';
export { SegmentFormatError } from './segment/format.ts';
export { covers, planFor, type IndexPlan } from './segment/plan.ts';
export { Segment } from './segment/segment.ts';
export { Tombstones } from './segment/tombstones.ts';
export { foldWords } from './text/words.ts';
