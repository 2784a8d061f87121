import './utf8.ts';
import {
  completeTuning,
  type InterfacePage,
  type ProblemJson,
  type RecordJson,
  type SearchAnswer,
  type SearchRequest,
  type Tuning,
  type TuningDocument,
} from '@yucca/contract';
import {
  planFor,
  search,
  searchFacet,
  Segment,
  SegmentBuilder,
  suggest,
  Tombstones,
  type Generation,
} from '@yucca/engine';
import { ProblemError, type YuccaClient } from '@yucca/kit';
import { asProblem } from './problems.ts';

/** A collection for a test. */
export interface TestCollection {
  records: readonly RecordJson[];
  /** The field that tells records apart. Default: `id`; a record without it is called by its number, from 1. */
  key?: string;
  /** How it is searched, as in the studio. Default: all texts, no facets. */
  tuning?: TuningDocument;
}

export interface TestClientOptions {
  /** Search pages by their slugs: what `client.page(slug)` answers. */
  pages?: Readonly<Record<string, InterfacePage>>;
  /** The day that placements and dates go by, such as `2026-05-01`. Default: today. */
  today?: string;
}

interface Opened {
  generation: Generation;
  tuning: Tuning;
}

/** Values a facet is looked through for at once, as on a server. */
const FACET_VALUES = 20;

/**
 * A client over records in memory, for the tests of an application: the engine itself answers, so nothing has to run
 * beside them and no answer is made up. Every answer has an id of its own (`test-1`, `test-2`, …) and takes no time, so
 * that it can be compared as a whole. What is wrong is refused as a server does: with a ProblemError.
 */
export function createTestClient(
  collections: Readonly<Record<string, TestCollection>>,
  { pages = {}, today = new Date().toISOString().slice(0, 10) }: TestClientOptions = {},
): YuccaClient {
  const opened = new Map<string, Opened>();
  const open = (name: string): Opened => {
    let known = opened.get(name);
    if (!known) opened.set(name, (known = built(requireOne(collections, name, 'collection'))));
    return known;
  };
  let answers = 0;
  // Every answer comes a moment later, as it does from a server.
  const later = async <T>(signal: AbortSignal | undefined, work: () => T): Promise<T> => {
    await Promise.resolve();
    signal?.throwIfAborted();
    try {
      return work();
    } catch (error) {
      throw error instanceof ProblemError ? error : new ProblemError(asProblem(error as Error));
    }
  };
  const find = (collection: string, request: SearchRequest): SearchAnswer => {
    const { generation, tuning } = open(collection);
    const answer = search(generation, tuning, request, { today: request.on ?? today });
    return { ...answer, queryId: `test-${++answers}`, timing: { engineMs: 0, totalMs: 0 } };
  };
  return {
    search: (collection, request, signal) => later(signal, () => find(collection, request)),
    multiSearch: (queries, signal) =>
      later(signal, () =>
        queries.map(({ collection, ...request }) => {
          try {
            return find(collection, request);
          } catch (error) {
            return error instanceof ProblemError ? error.problem : asProblem(error as Error);
          }
        }),
      ),
    facetValues: (collection, facet, q, within, signal) =>
      later(signal, () => {
        const { generation, tuning } = open(collection);
        return searchFacet(generation, tuning, within, facet, q, FACET_VALUES, { today });
      }),
    suggest: (collection, q, size, signal, filter) =>
      later(signal, () => {
        const { generation, tuning } = open(collection);
        return suggest(generation, tuning, q, size, [], { today }, filter);
      }),
    page: (slug, signal) => later(signal, () => requireOne(pages, slug, 'page')),
  };
}

function built({ records, key = 'id', tuning: document = {} }: TestCollection): Opened {
  const tuning = completeTuning(document);
  const builder = new SegmentBuilder(planFor([tuning]));
  records.forEach((record, i) => {
    const named = record[key];
    const isKey = typeof named === 'string' || typeof named === 'number';
    builder.add({
      versionId: i + 1,
      order: i + 1,
      key: isKey ? String(named) : String(i + 1),
      json: JSON.stringify(record),
    });
  });
  const allocate = (bytes: number): ArrayBuffer => new ArrayBuffer(bytes);
  const segment = new Segment(builder.finish(allocate));
  const dead = Tombstones.none(records.length, allocate);
  return { tuning, generation: { number: 1, segments: [{ segment, dead }] } };
}

function requireOne<T>(all: Readonly<Record<string, T>>, name: string, what: string): T {
  if (Object.hasOwn(all, name)) return all[name]!;
  const detail = `The test has no ${what} “${name}”; it has ${Object.keys(all).join(', ') || 'none'}.`;
  throw new ProblemError({
    type: 'urn:yucca:problem:not-found',
    title: 'Not found',
    status: 404,
    detail,
  } satisfies ProblemJson);
}
