import type { RecordJson, SearchAnswer, SearchResult } from '@yucca/contract';

/** A result whose record is of the type `R`. */
export type ResultOf<R extends object> = Omit<SearchResult, 'record'> & { record: R };

/** An answer whose records are of the type `R`. */
export type AnswerOf<R extends object> = Omit<SearchAnswer, 'results'> & { results: ResultOf<R>[] };

/** The types of records by the names of their collections; `yucca types` writes them. */
export type Collections = Readonly<Record<string, object>>;

/** The type of a collection's records; one that is not known has records of any kind. */
export type RecordOf<C extends Collections, N extends string> = N extends keyof C ? C[N] : RecordJson;
