import type { OfflineCollection, ProblemJson } from '@yucca/contract';
import type { OfflineCollections } from './collections.ts';

/** What a page may have done by the thread that searches. */
export type Method = 'search' | 'facetValues' | 'suggest' | 'record';

/** From the page: what there is, said once; then questions. */
export type ToThread =
  { collections: Record<string, OfflineCollection>; base: string } | { id: number; method: Method; args: unknown[] };

/** From the thread: an answer, or why there is none. */
export interface FromThread {
  id: number;
  answer?: unknown;
  problem?: ProblemJson;
}

/** What a question is answered with, by its method. */
export type AnswerOf<M extends Method> = Awaited<ReturnType<OfflineCollections[M]>>;
