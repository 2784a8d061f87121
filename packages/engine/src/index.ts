export { eachLeaf, leavesAt, pick } from './record/paths.ts';
export { SegmentBuilder, type IndexPlan, type SourceRecord } from './segment/builder.ts';
export { SegmentFormatError } from './segment/format.ts';
export { Segment } from './segment/segment.ts';
export { Tombstones } from './segment/tombstones.ts';
export { checkRequest, search, SearchRequestError, type EngineAnswer, type Generation } from './query/search.ts';
