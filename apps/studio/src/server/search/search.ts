import type { SearchAnswer, SearchRequest } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import type { Collections } from '../collections/collections';
import { Failure } from '../failure';
import type { Catalogue } from '../index/catalogue';
import { isRemoteError } from '../workers/rpc';
import type { Searchers } from './searchers';

/** Searching a collection by its name. */
export class SearchService {
  readonly #collections: Collections;
  readonly #catalogue: Catalogue;
  readonly #searchers: Searchers;

  constructor(collections: Collections, catalogue: Catalogue, searchers: Searchers) {
    this.#collections = collections;
    this.#catalogue = catalogue;
    this.#searchers = searchers;
  }

  /** The state that would answer now: a repeated question to it has the same answer. */
  generation(name: string): number {
    return this.#catalogue.facts(this.#collections.row(name).id).generation;
  }

  /** Answers a search. Throws a Failure for what is not there, a SearchCancelled when `signal` fires first. */
  async search(name: string, request: SearchRequest, signal?: AbortSignal): Promise<SearchAnswer> {
    const start = performance.now();
    const { id } = this.#collections.row(name);
    this.#catalogue.requireReady(id);
    try {
      const { answer, engineMs } = await this.#searchers.search(id, request, signal);
      const round = (ms: number): number => Math.round(ms * 100) / 100;
      const timing = { engineMs: round(engineMs), totalMs: round(performance.now() - start) };
      return { ...answer, queryId: randomUUID(), timing };
    } catch (error) {
      if (isRemoteError(error) && error.note.name === 'SearchRequestError') {
        throw new Failure('invalid', error.message, [{ pointer: String(error.note.pointer), detail: error.message }]);
      }
      throw error;
    }
  }
}
