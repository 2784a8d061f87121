/** A searcher: answers queries over segments it shares with the other threads. */
import {
  completeTuning,
  type FacetValuesAnswer,
  type SearchRequest,
  type SuggestAnswer,
  type TrialEffect,
  type Tuning,
  type TuningDocument,
  type TypoExamples,
  type Whereabouts,
} from '@yucca/contract';
import {
  interleaved,
  isWorthOffering,
  keysPage,
  keysWhere,
  sampleWords,
  search,
  searchFacet,
  Segment,
  suggest,
  Tombstones,
  typoExamples,
  whereabouts,
  type Generation,
  type QueryContext,
} from '@yucca/engine';
import { rankBiasedOverlap } from '@yucca/engine/compare';
import type { Team } from '@yucca/engine/visitors';
import { LRUCache } from 'lru-cache';
import { workerData } from 'node:worker_threads';
import { openDb, type Db } from '../db/open';
import { rowsThat } from '../scan/rows-that';
import type { TrialOrder } from '../visitor-trials/visitor-trials';
import { practice } from './practice';
import { Moved, serve } from './rpc';
import type { ThreadData } from './spawn';
import { weighed } from '../index/shared-memory';

/** A collection's whole state, as the searchers are told it: one message, so that it changes in one step. */
export interface PublishedState {
  collectionId: number;
  generation: number;
  layers: {
    id: string;
    buffer: SharedArrayBuffer;
    /** Its column segments, oldest first. */
    added: SharedArrayBuffer[];
    dead: SharedArrayBuffer;
    deadCount: number;
  }[];
  /** The live tuning and the draft, as JSON. */
  live: string;
  draft: string;
}

interface OpenCollection {
  generation: Generation;
  segments: Map<string, Segment>;
  live: Tuning;
  draft: Tuning;
  /** The JSON they were made from. */
  texts: { live: string; draft: string };
  /** Published versions that were asked for, by number; they never change. */
  older: Map<number, Tuning>;
}

/** Opened with the first question that needs it: searches are answered from the index alone. */
let db: Db | null = null;
const open = new Map<number, OpenCollection>();
let cancelFlag: Int32Array = new Int32Array(1);

/** Tunings on trial, by the number of the trial. */
const onTrial = new LRUCache<number, Tuning>({ max: 20 });

const WARM_UP_MS = 400;
/** Of a thread that has nothing to do yet. */
const PRACTICE_MS = 1_500;
const PRACTICE_AFTER_MS = 1_000;
/** Results looked at when a tuning is on trial. */
const TRIAL_DEPTH = 10;

/** What every call says besides its own question. */
export interface Ask {
  collectionId: number;
  /** Number of the call, from 1; the caller writes it into the flag to have it stopped. */
  ticket: number;
  context: QueryContext;
  /** The tuning of a request for a version by its number. */
  older?: TuningDocument | undefined;
}

/** A search as it crosses to this thread, in one JSON text. */
export interface Asked {
  ask: Ask;
  request: SearchRequest;
}

/** An answer on its way back. */
export interface FoundBytes {
  /** Its JSON in UTF-8, with `room` bytes behind it that nobody has written. */
  bytes: ArrayBuffer;
  room: number;
  total: number;
  engineMs: number;
}

/** Behind an answer, for what only the main thread knows: its id and how long it took. */
const ROOM = 160;

function inBytes<T extends object>(answer: object, facts: T): Moved<T & Pick<FoundBytes, 'bytes' | 'room'>> {
  const json = JSON.stringify(answer);
  const bytes = Buffer.allocUnsafeSlow(Buffer.byteLength(json) + ROOM);
  bytes.write(json);
  return new Moved({ ...facts, bytes: bytes.buffer, room: ROOM }, [bytes.buffer]);
}

function find(
  { collectionId, older }: Ask,
  version: NonNullable<SearchRequest['version']> = 'live',
): { generation: Generation; tuning: Tuning } {
  const collection = open.get(collectionId);
  if (!collection) throw new Error('the collection is not open here');
  const { generation } = collection;
  if (typeof version === 'string') return { generation, tuning: collection[version] };
  let tuning = collection.older.get(version);
  if (!tuning) collection.older.set(version, (tuning = completeTuning(older ?? {})));
  return { generation, tuning };
}

/**
 * The tunings behind two texts. One that is as it was stays the same object, and so does a list of synonyms: what was
 * compiled for them is kept, and thousands of synonyms cost nothing when another lever moves or a record is written.
 */
function tuningsOf(texts: { live: string; draft: string }, known?: OpenCollection): { live: Tuning; draft: Tuning } {
  const before = known ? [known.live, known.draft] : [];
  const read = (text: string, others: readonly Tuning[]): Tuning => {
    if (known && text === known.texts.live) return known.live;
    if (known && text === known.texts.draft) return known.draft;
    const tuning = completeTuning(JSON.parse(text) as TuningDocument);
    const synonyms = JSON.stringify(tuning.synonyms);
    const same = others.find((other) => JSON.stringify(other.synonyms) === synonyms);
    return same ? { ...tuning, synonyms: same.synonyms } : tuning;
  };
  const live = read(texts.live, before);
  return { live, draft: texts.draft === texts.live ? live : read(texts.draft, [live, ...before]) };
}

/** A flag crosses between threads, a function does not. */
function contextOf({ ticket, context }: Ask): QueryContext {
  return { ...context, cancelled: () => Atomics.load(cancelFlag, 0) === ticket };
}

/** Whether there was a collection to search before anybody asked. */
let isWarm = false;

/** Does a piece a turn, so that whoever asks meanwhile comes next. */
function inTurns(pieces: Iterator<void>, most: number): void {
  const end = performance.now() + most;
  const next = (): void => {
    if (performance.now() < end && !pieces.next().done) setImmediate(next);
  };
  next();
}

/**
 * Queries nobody asked for, typed out letter by letter as a visitor would, so that the first visitor does not wait for
 * the compiler: it takes some hundred searches until the engine runs at its speed.
 */
function* warmUp(collectionId: number): Generator<void> {
  const generation = open.get(collectionId)?.generation;
  for (const word of generation ? sampleWords(generation, 40) : []) {
    for (let length = word.length; length > 0; length--) {
      for (const q of [`${word} ${word.slice(0, length)}`, word.slice(0, length)]) {
        const collection = open.get(collectionId);
        if (!collection) return;
        isWarm = true;
        search(collection.generation, collection.live, { q, facets: ['*'] });
        yield;
      }
    }
  }
}

// A server without data has nothing to warm up with, and the first load into it may be a large one.
setTimeout(() => {
  if (!isWarm) inTurns(practice(), PRACTICE_MS);
}, PRACTICE_AFTER_MS).unref();

const methods = {
  publish({ collectionId, generation, layers, live, draft }: PublishedState): void {
    const known = open.get(collectionId);
    const before = known?.segments;
    if (!before) setImmediate(() => inTurns(warmUp(collectionId), WARM_UP_MS));
    // The buffer was checked when it was opened or built; a segment known already keeps its working memory.
    const nameOf = ({ id, added }: (typeof layers)[number]): string => [id, added.length].join(' ');
    const segments = new Map(
      layers.map((layer) => {
        const name = nameOf(layer);
        return [
          name,
          before?.get(name) ?? new Segment(weighed(layer.buffer), { verify: false, added: layer.added.map(weighed) }),
        ];
      }),
    );
    open.set(collectionId, {
      segments,
      older: known?.older ?? new Map<number, Tuning>(),
      texts: { live, draft },
      ...tuningsOf({ live, draft }, known),
      generation: {
        number: generation,
        segments: layers.map((layer) => ({
          segment: segments.get(nameOf(layer))!,
          dead: new Tombstones(weighed(layer.dead), layer.deadCount),
        })),
      },
    });
  },

  forget(collectionId: number): void {
    open.delete(collectionId);
  },

  /** Where the main thread says which call nobody waits for any more. */
  watchFor(flag: Int32Array): void {
    cancelFlag = flag;
  },

  /**
   * The question and the answer as JSON: a text crosses threads for next to nothing, a tree of objects is copied node
   * by node. The answer comes as the bytes that are sent, so that the main thread has nothing to encode.
   */
  searchJson(asked: string): Moved<FoundBytes> {
    const { ask, request } = JSON.parse(asked) as Asked;
    const { generation, tuning } = find(ask, request.version);
    const start = performance.now();
    const answer = search(generation, tuning, request, contextOf(ask));
    const engineMs = performance.now() - start;
    return inBytes(answer, { total: answer.total, engineMs });
  },

  /**
   * One search answered from live and from a tuning on trial. `teams`: whose side put the records of this page there.
   */
  searchOnTrial(
    asked: string,
    { trialId, tuning, seed }: TrialOrder,
  ): Moved<FoundBytes & { teams: Record<string, Team> }> {
    const { ask, request } = JSON.parse(asked) as Asked;
    const { generation, tuning: live } = find(ask);
    let other = onTrial.get(trialId);
    if (!other) {
      onTrial.set(trialId, (other = completeTuning(JSON.parse(tuning) as TuningDocument)));
    }
    const start = performance.now();
    const { answer, teams } = interleaved(generation, live, other, request, seed, contextOf(ask));
    const engineMs = performance.now() - start;
    return inBytes(answer, { total: answer.total, engineMs, teams });
  },

  facetValues(ask: Ask, request: SearchRequest, facet: string, text: string, size: number): FacetValuesAnswer {
    const { generation, tuning } = find(ask, request.version);
    return searchFacet(generation, tuning, request, facet, text, size, contextOf(ask));
  },

  suggest(ask: Ask, q: string, size: number, pastQueries: string[], filter?: string): SuggestAnswer {
    const { generation, tuning } = find(ask, 'live');
    return suggest(generation, tuning, q, size, pastQueries, contextOf(ask), filter);
  },

  /** Whether a query is one to offer to other visitors. */
  isWorthOffering(ask: Ask, q: string): boolean {
    const { generation, tuning } = find(ask, 'live');
    return isWorthOffering(generation, tuning, q, contextOf(ask));
  },

  /** Where a record stands among the results, or what keeps it out of them. */
  whereabouts(ask: Ask, request: SearchRequest, id: string): Whereabouts {
    const { generation, tuning } = find(ask, request.version);
    return whereabouts(generation, tuning, request, id, contextOf(ask));
  },

  /** What the draft's typo rules change against those of live. */
  typoExamples(ask: Ask): TypoExamples {
    const { generation, tuning: live } = find(ask, 'live');
    return typoExamples(generation, live, find(ask, 'draft').tuning);
  },

  /** What another tuning does to some queries, against the draft. */
  trial(ask: Ask, document: TuningDocument, queries: readonly string[]): TrialEffect[] {
    const { generation, tuning: draft } = find(ask, 'draft');
    const other = completeTuning(document);
    return queries.map((query) => {
      const [before, after] = [draft, other].map((tuning) => {
        const request = { q: query, size: TRIAL_DEPTH, fields: [] };
        const { total, results } = search(generation, tuning, request, contextOf(ask));
        return { total, ids: results.map(({ id }) => id) };
      }) as [TrialEffect['before'], TrialEffect['after']];
      return { query, alike: rankBiasedOverlap(before.ids, after.ids), before, after };
    });
  },

  /** The keys of the records that fulfil a condition. */
  keysWhere(ask: Ask, filter: string): string[] {
    return keysWhere(find(ask, 'live').generation, filter);
  },

  /** The JSON of those of some records that fulfil a condition as they stand in the database now. */
  rowsThat({ collectionId }: Ask, filter: string, keys: readonly string[]): string[] {
    db ??= openDb((workerData as ThreadData).dataDir, { readonly: true });
    return rowsThat(db, collectionId, filter, keys).map(({ json }) => json);
  },

  /** `mayName`: whether a misspelt field may be answered with the name of another. */
  keysPage(ask: Ask, filter: string, from: number, size: number, mayName: boolean): { total: number; keys: string[] } {
    return keysPage(find(ask, 'live').generation, filter, from, size, () => mayName);
  },
};

export type SearcherMethods = typeof methods;

serve(methods);
