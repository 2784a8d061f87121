import {
  completeTuning,
  type FacetValuesAnswer,
  type OfflineCollection,
  type RecordJson,
  type SearchAnswer,
  type SearchRequest,
  type SuggestAnswer,
  type Tuning,
} from '@yucca/contract';
import { PartedSegment, search, searchFacet, suggest, Tombstones, type Generation } from '@yucca/engine';
import type { LoadFile } from './files.ts';

interface OpenCollection {
  segment: PartedSegment;
  generation: Generation;
  tuning: Tuning;
}

/** Values a facet is looked through for at once, as on a server. */
const FACET_VALUES = 20;

/**
 * Collections that are searched where the page is: the same engine over the same index as on a server. An index is
 * fetched with the first question to its collection, records as they are shown.
 */
export class OfflineCollections {
  readonly #files: Readonly<Record<string, OfflineCollection>>;
  readonly #load: LoadFile;
  readonly #open = new Map<string, Promise<OpenCollection>>();
  readonly #parts = new Map<string, Promise<void>>();

  constructor(files: Readonly<Record<string, OfflineCollection>>, load: LoadFile) {
    this.#files = files;
    this.#load = load;
  }

  /** Answers a search. Rejects with an OfflineError, or with what the engine throws. */
  async search(name: string, request: SearchRequest): Promise<SearchAnswer> {
    const start = performance.now();
    const open = await this.#opened(name);
    // A condition may look at texts that stand in the records alone.
    if (request.filter !== undefined) await this.#all(name, open);
    let engineMs = 0;
    const answer = await this.#withRecords(name, open, () => {
      const begin = performance.now();
      const found = search(open.generation, open.tuning, request, { today: new Date().toISOString().slice(0, 10) });
      engineMs = performance.now() - begin;
      return found;
    });
    return { ...answer, queryId: '', timing: { engineMs: hundredths(engineMs), totalMs: hundredths(performance.now() - start) } }; // prettier-ignore
  }

  async facetValues(name: string, facet: string, q: string, within: SearchRequest): Promise<FacetValuesAnswer> {
    const open = await this.#opened(name);
    return searchFacet(open.generation, open.tuning, within, facet, q, FACET_VALUES);
  }

  async suggest(name: string, q: string, size: number, filter?: string): Promise<SuggestAnswer> {
    const open = await this.#opened(name);
    return this.#withRecords(name, open, () => suggest(open.generation, open.tuning, q, size, [], {}, filter));
  }

  /** One record by its key; null when there is none. */
  async record(name: string, key: string): Promise<RecordJson | null> {
    const open = await this.#opened(name);
    const [doc] = open.segment.docsOfKey(key);
    return doc === undefined ? null : this.#withRecords(name, open, () => open.segment.record(doc));
  }

  #opened(name: string): Promise<OpenCollection> {
    let opening = this.#open.get(name);
    if (!opening) {
      opening = this.#read(name);
      this.#open.set(name, opening);
      // What failed is tried again by the next question.
      opening.catch(() => this.#open.delete(name));
    }
    return opening;
  }

  async #read(name: string): Promise<OpenCollection> {
    const { index, firstDocs, tuning } = this.#files[name]!;
    const segment = new PartedSegment(await this.#load(index), firstDocs);
    const dead = Tombstones.none(segment.docs, (bytes) => new ArrayBuffer(bytes));
    return { segment, generation: { number: 1, segments: [{ segment, dead }] }, tuning: completeTuning(tuning) };
  }

  /** Does something until it has met no record that is still missing. */
  async #withRecords<T>(name: string, { segment }: OpenCollection, work: () => T): Promise<T> {
    for (;;) {
      segment.missing.clear();
      const done = work();
      if (segment.missing.size === 0) return done;
      await Promise.all([...segment.missing].map((part) => this.#part(name, segment, part)));
    }
  }

  #all(name: string, { segment }: OpenCollection): Promise<unknown> {
    if (segment.isWhole) return Promise.resolve();
    return Promise.all(this.#files[name]!.parts.map((_, part) => this.#part(name, segment, part)));
  }

  #part(name: string, segment: PartedSegment, part: number): Promise<void> {
    if (segment.hasPart(part)) return Promise.resolve();
    const path = this.#files[name]!.parts[part]!;
    let loading = this.#parts.get(path);
    if (!loading) {
      loading = this.#load(path).then((bytes) => segment.takePart(part, bytes));
      this.#parts.set(path, loading);
      loading.catch(() => this.#parts.delete(path));
    }
    return loading;
  }
}

const hundredths = (ms: number): number => Math.round(ms * 100) / 100;
