/** Searches that one call may ask for: by itself, for those who need no other limit. */
export const QUERIES_PER_CALL = 10;
/** UTF-16 units of a query. */
export const QUERY_LENGTH = 512;

/**
 * The limits every part of Yucca agrees on. Sizes of text are in UTF-16 units, sizes of records and keys in UTF-8
 * bytes.
 */
export const LIMITS = {
  queryLength: QUERY_LENGTH,
  queryWords: 32,
  /** Phrases of a query, wanted and excluded ones together. */
  queryPhrases: 3,
  /** Languages of a collection's texts besides the first: each word of a query is tried in every one. */
  otherLanguages: 7,
  pageSize: 200,
  /** `page × size` may not go past this many results. */
  resultWindow: 10_000,
  filterLength: 4096,
  /** Conditions that each result of a search is held against. */
  conditionsPerQuery: 6,
  filterLevels: 64,
  queriesPerCall: QUERIES_PER_CALL,
  facetsPerQuery: 50,
  valuesPerFacet: 1_000,
  /** UTF-16 units of one chosen value, and of all that are chosen together. */
  choiceLength: 1_024,
  choicesLength: 65_536,
  recordBytes: 256 * 1024,
  keyBytes: 512,
  pathLevels: 16,
  /** Field paths of one record; the items of a list share theirs. */
  pathsPerRecord: 1_000,
  /** Levels of any JSON that is sent. */
  jsonDepth: 64,
  /** A body that is no load, in bytes, unpacked. */
  bodyBytes: 4 * 1024 * 1024,
  /** A logo of a page. */
  logoBytes: 200_000,
  /** A body that asks: a search has a query, choices and a filter, which have limits of their own. */
  askBytes: 512 * 1024,
  /** Records of all collections of a folder that needs no server. */
  offlineRecords: 50_000,
  /** How many errors a task keeps; the count of failures goes on. */
  taskErrors: 100,
} as const;
