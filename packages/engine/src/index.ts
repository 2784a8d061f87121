export { FilterError } from './filter/lexer.ts';
export { readFilter } from './filter/filter.ts';
export { recordsThat } from './filter/on-records.ts';
export { eachField, parseFilter } from './filter/parse.ts';
export { checkRequest } from './query/check.ts';
export type { Generation } from './segment/generation.ts';
export { SearchCancelledError, SearchRequestError, type EngineAnswer, type QueryContext } from './query/context.ts';
export { keysPage, keysWhere } from './query/keys-where.ts';
export { interleaved, type InterleavedAnswer } from './query/interleaved.ts';
export { sampleWords } from './query/sample-words.ts';
export { searchFacet } from './query/facet-search.ts';
export { search } from './query/search.ts';
export { typoExamples } from './query/typo-examples.ts';
export { whereabouts } from './query/whereabouts.ts';
export { isWorthOffering, suggest } from './query/suggest.ts';
export { shownPart } from './record/show.ts';
export { SegmentBuilder, type SourceRecord } from './segment/builder.ts';
export { SegmentFormatError } from './bytes/flat-buffer.ts';
export { buildColumnSegment } from './segment/column-segment.ts';
export {
  covers,
  isCurrent,
  isUpToDate,
  missingColumns,
  planFor,
  widened,
  withColumns,
  type AddedColumns,
  type IndexPlan,
} from './segment/plan.ts';
export { PartedSegment, partSegment, type PartedForm } from './segment/parted.ts';
export { Segment } from './segment/segment.ts';
export { Tombstones } from './segment/tombstones.ts';
export { TEXT_RULES } from './text/tokens.ts';
export { foldWords } from './text/words.ts';
