import type {
  FacetValuesAnswer,
  SearchAnswer,
  SearchRequest,
  SuggestAnswer,
  TrialEffect,
  TuningDocument,
  TypoExamples,
  Whereabouts,
} from '@yucca/contract';
import type { QueryContext } from '@yucca/engine';
import type { Team } from '@yucca/engine/visitors';
import { randomUUID } from 'node:crypto';
import type { Clock } from '../clock';
import type { Collections } from '../collections/collections';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';
import { isRemoteError } from '../workers/rpc';
import type { Asked, FoundBytes } from '../workers/search-worker';
import type { AnsweredSearches } from '../insights/answered-searches';
import type { AnsweredQueries, AnsweredQuery } from '../past-queries/answered-queries';
import type { PastQueries } from '../past-queries/past-queries';
import type { HangUp } from './hang-up';
import type { Tunings } from '../tuning/tuning';
import type { TrialOrder, VisitorTrials } from '../visitor-trials/visitor-trials';
import { SearchCancelled, type Question, type Run, type Searchers } from './searchers';

/**
 * Who asks, as far as a search minds: the condition of the key, a signal that fires when the caller has gone, and
 * whether what is asked stays out of insights.
 */
export type Asking = Pick<QueryContext, 'forcedFilter'> & { signal?: HangUp | undefined; unnoted?: () => boolean };

/** Past queries read for a completion: some may find nothing any more. */
const PAST_QUERIES_READ = 20;

export interface SearchParts {
  clock: Pick<Clock, 'today'>;
  collections: Collections;
  indexManager: IndexManager;
  searchers: Searchers;
  tunings: Pick<Tunings, 'get'>;
  answered: Pick<AnsweredQueries, 'keep'>;
  noted: Pick<AnsweredSearches, 'note'>;
  trials: Pick<VisitorTrials, 'orderFor' | 'answered' | 'state'>;
  pastQueries: Pick<PastQueries, 'beginningWith'>;
}

/** Searching a collection by its name. */
export class SearchService {
  readonly #parts: SearchParts;

  constructor(parts: SearchParts) {
    this.#parts = parts;
  }

  /**
   * What would answer now, as a text: a repeated question to the same has the same answer. Placements depend on the
   * day.
   */
  state(name: string): string {
    const { clock, collections, indexManager, trials } = this.#parts;
    const id = collections.idOf(name);
    return `${indexManager.facts(id).generation}/${clock.today()}/${trials.state(id)}`;
  }

  /** Answers a search. Throws a Failure for what is not there, a SearchCancelled when `signal` fires first. */
  async search(name: string, request: SearchRequest, asking: Asking = {}): Promise<SearchAnswer> {
    return JSON.parse((await this.searchJson(name, request, asking)).json.toString()) as SearchAnswer;
  }

  /** The same as JSON in UTF-8, made by the searcher's thread, for the route that sends it on as it is. */
  async searchJson(
    name: string,
    request: SearchRequest,
    asking: Asking = {},
  ): Promise<{ json: Buffer; timing: SearchAnswer['timing'] }> {
    const start = performance.now();
    const order = this.#trialOf(name, request, asking);
    const found = await this.#ask<FoundBytes & { teams?: Record<string, Team> }>(
      name,
      asking,
      (thread, ask) => {
        // One text crosses to the thread quicker than a tree of objects, which is copied node by node.
        const asked = JSON.stringify({ ask, request } satisfies Asked);
        return order ? thread.call('searchOnTrial', [asked, order]) : thread.call('searchJson', [asked]);
      },
      request,
    );
    const queryId = this.#keep(name, request, asking, found.total);
    if (order) this.#parts.trials.answered(queryId, order, request, found.teams!);
    const rest = { queryId, timing: timing(start, found.engineMs) };
    this.#note(name, queryId, request, asking, found.total, rest.timing.totalMs);
    return { json: withRest(found, rest), timing: rest.timing };
  }

  /** Who wants not to be noted takes part in no trial. */
  #trialOf(name: string, request: SearchRequest, asking: Asking): TrialOrder | null {
    const { collections, trials } = this.#parts;
    const order = trials.orderFor(collections.idOf(name), request);
    return order === null || asking.unnoted?.() ? null : order;
  }

  /** Looks inside the values of one facet, within the results of `request`. */
  facetValues(
    name: string,
    request: SearchRequest,
    facet: string,
    text: string,
    size: number,
    asking: Asking = {},
  ): Promise<FacetValuesAnswer> {
    return this.#ask(
      name,
      asking,
      (thread, ask) => thread.call('facetValues', [ask, request, facet, text, size]),
      request,
    );
  }

  /** Completions of what is being typed; `filter`: of the records that fulfil it. */
  suggest(name: string, q: string, size: number, asking: Asking = {}, filter?: string): Promise<SuggestAnswer> {
    const id = this.#parts.collections.idOf(name);
    const past = this.#parts.pastQueries.beginningWith(id, asking.forcedFilter ?? '', q, PAST_QUERIES_READ);
    return this.#ask(name, asking, (thread, ask) => thread.call('suggest', [ask, q, size, past, filter]));
  }

  /**
   * Whether a query that was answered is one to offer to others: neither half-typed nor misspelt, and still finding.
   */
  async isWorthOffering({ collection, collectionId, scope, q }: AnsweredQuery): Promise<boolean> {
    // Another collection may have got the name since.
    if (this.#parts.collections.idOf(collection) !== collectionId) return false;
    const asking = scope === '' ? {} : { forcedFilter: scope };
    return this.#ask(collection, asking, (thread, ask) => thread.call('isWorthOffering', [ask, q]));
  }

  /** Where a record stands among the results of a search, or all that keeps it out of them. */
  whereabouts(name: string, request: SearchRequest, id: string, asking: Asking = {}): Promise<Whereabouts> {
    return this.#ask(name, asking, (thread, ask) => thread.call('whereabouts', [ask, request, id]), request);
  }

  /** Words that the typo rules of the draft take for others than those of live do. */
  typoExamples(name: string, asking: Asking = {}): Promise<TypoExamples> {
    return this.#ask(name, asking, (thread, ask) => thread.call('typoExamples', [ask]));
  }

  /** What a tuning that nobody has saved would do to some queries, against the draft. */
  trial(name: string, tuning: TuningDocument, queries: readonly string[], asking: Asking = {}): Promise<TrialEffect[]> {
    return this.#ask(name, asking, (thread, ask) => thread.call('trial', [ask, tuning, [...queries]]));
  }

  /** The keys of the records that fulfil a CQL2-Text condition. */
  keysWhere(name: string, filter: string): Promise<string[]> {
    return this.#ask(name, {}, (thread, ask) => thread.call('keysWhere', [ask, filter]));
  }

  /** The JSON of those of some records, by their keys and in that order, that fulfil a condition as they stand now. */
  rowsThat(name: string, filter: string, keys: readonly string[]): Promise<string[]> {
    return this.#ask(name, {}, (thread, ask) => thread.call('rowsThat', [ask, filter, keys]));
  }

  /**
   * How many records fulfil a condition, and the keys of a page of them. `mayName`: whether a misspelt field may be
   * answered with the name of another, which may stand in hidden records alone.
   */
  keysPage(
    name: string,
    filter: string,
    from: number,
    size: number,
    mayName: boolean,
  ): Promise<{ total: number; keys: string[] }> {
    return this.#ask(name, {}, (thread, ask) => thread.call('keysPage', [ask, filter, from, size, mayName]));
  }

  /** Gives an answer its id, and keeps its query for what the visitor does with it. */
  #keep(
    collection: string,
    { q = '', record = true, version = 'live' }: SearchRequest,
    { forcedFilter: scope = '' }: Asking,
    total: number,
  ): string {
    const queryId = randomUUID();
    if (record && version === 'live' && total > 0 && q.trim() !== '') {
      const collectionId = this.#parts.collections.idOf(collection);
      this.#parts.answered.keep(queryId, { collection, collectionId, scope, q });
    }
    return queryId;
  }

  /** For insights: what visitors asked of the live version, unless they or the page want it otherwise. */
  #note(name: string, queryId: string, request: SearchRequest, asking: Asking, total: number, ms: number): void {
    const {
      q = '',
      record = true,
      version = 'live',
      select = null,
      session = null,
      viewer = null,
      tags = [],
      by,
    } = request;
    if (!record || version !== 'live' || (q === '' && session === null) || asking.unnoted?.()) return;
    const { collections, noted } = this.#parts;
    const facts = { at: Date.now(), collectionId: collections.idOf(name), queryId, viewer, q, select, total, ms };
    noted.note({ ...facts, tags, chosen: by === 'completion' }, session);
  }

  async #ask<T>(
    name: string,
    { signal, forcedFilter }: Asking,
    run: Run<T>,
    { version, on }: Pick<SearchRequest, 'version' | 'on'> = {},
  ): Promise<T> {
    const { clock, collections, indexManager, searchers } = this.#parts;
    const id = collections.idOf(name);
    indexManager.requireReady(id);
    if (version === 'draft') indexManager.requireDraft(id);
    const today = on ?? clock.today();
    const older = typeof version === 'number' ? this.#older(name, id, version) : undefined;
    const question: Question = { collectionId: id, context: { today, forcedFilter }, older };
    try {
      return await searchers.ask(question, run, signal);
    } catch (error) {
      if (isRemoteError(error) && error.note.name === 'SearchRequestError') {
        throw new Failure('invalid', error.message, [{ pointer: String(error.note.pointer), detail: error.message }]);
      }
      if (isRemoteError(error) && error.note.name === 'SearchCancelledError') throw new SearchCancelled(error.message);
      throw error;
    }
  }

  /**
   * The tuning of a published version. Throws a Failure when there is none, or when the index no longer has what it
   * needs.
   */
  #older(name: string, id: number, version: number): TuningDocument {
    const document = this.#parts.tunings.get(name, version);
    if (!this.#parts.indexManager.canAnswer(id, [document]))
      throw new Failure(
        'conflict',
        `Version ${version} needs an index this collection does not have now. Restore it as the draft to look at it.`,
      );
    return document;
  }
}

/** An answer in bytes with members behind its own, written over its last brace and into the room that was left. */
function withRest({ bytes, room }: FoundBytes, rest: object): Buffer {
  const members = `,${JSON.stringify(rest).slice(1)}`;
  const end = bytes.byteLength - room - 1;
  const whole = Buffer.from(bytes);
  return whole.subarray(0, end + whole.write(members, end, 'latin1'));
}

function timing(start: number, engineMs: number): SearchAnswer['timing'] {
  const round = (ms: number): number => Math.round(ms * 100) / 100;
  return { engineMs: round(engineMs), totalMs: round(performance.now() - start) };
}
