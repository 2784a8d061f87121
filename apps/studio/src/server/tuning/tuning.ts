import type { Task, TuningDocument } from '@yucca/contract';
import { parseFilter } from '@yucca/engine';
import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { collections, tunings } from '../db/schema';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';
import { applyMergePatch } from '../records/merge-patch';
import type { Tasks } from '../tasks/tasks';
import { validate } from '../validate';
import { tagOf, Versions, type VersionEntry } from '../versions/versions';

/** The build of an index that a draft waits for, as a task. */
export interface Indexing {
  taskId: string;
  ended: Promise<Task>;
}

const TOLD_EVERY_MS = 200;

export interface TuningsParts {
  db: Db;
  collections: Collections;
  indexManager: IndexManager;
  tasks: Tasks;
}

/** How a collection is searched: a live version, at most one draft, a history. */
export class Tunings {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #indexManager: IndexManager;
  readonly #tasks: Tasks;
  readonly #versions: Versions<TuningDocument>;
  /** The task of the build that each collection's draft waits for. */
  readonly #indexing = new Map<number, Indexing>();

  constructor({ db, collections, indexManager, tasks }: TuningsParts) {
    this.#db = db;
    this.#collections = collections;
    this.#indexManager = indexManager;
    this.#tasks = tasks;
    this.#versions = new Versions(db, tunings);
  }

  /** A version's document. With no draft, the draft is the live document. */
  get(name: string, version: 'live' | 'draft' | number): TuningDocument {
    const { id, liveVersion } = this.#collections.row(name);
    const found = this.#versions.read(id, liveVersion, version);
    if (!found) throw new Failure('not-found', `“${name}” has no tuning version ${version}.`);
    return found;
  }

  /** What a draft is told by: another one for every other document. */
  tagOf(document: TuningDocument): string {
    return tagOf(document);
  }

  /**
   * Puts another draft in the place of the one there is. With `onlyIf`, the tag of the draft that somebody changed,
   * only when that is still it: throws a Failure when it has been changed by somebody else meanwhile.
   */
  async replaceDraft(name: string, input: unknown, onlyIf: string | null = null): Promise<TuningDocument> {
    const document = checkTuning(input);
    return this.#change(name, onlyIf, () => document);
  }

  /** Changes the draft there is (RFC 7396): the one that is there when it is this change's turn. */
  async patchDraft(name: string, patch: unknown, onlyIf: string | null = null): Promise<TuningDocument> {
    return this.#change(name, onlyIf, () => checkTuning(applyMergePatch(this.get(name, 'draft'), patch)));
  }

  async #change(name: string, onlyIf: string | null, make: () => TuningDocument): Promise<TuningDocument> {
    const { id, liveVersion } = this.#collections.row(name);
    // What is wrong is told at once, not after whatever is under way.
    this.#versions.requireTag(id, liveVersion, onlyIf);
    make();
    const document = await this.#indexManager.retune(id, () => {
      this.#versions.requireTag(id, this.#collections.row(name).liveVersion, onlyIf);
      const made = make();
      this.#versions.storeDraft(id, made);
      return made;
    });
    this.#indexManager.ensure(id);
    return document;
  }

  /**
   * Settles, however that goes, when the index that the draft needs has been built. Null when the index can answer it
   * already.
   */
  building(name: string): Promise<void> | null {
    const rebuild = this.#indexManager.ensure(this.#collections.row(name).id);
    return rebuild === null ? null : rebuild.ended.catch(() => {});
  }

  /**
   * The build that makes the index able to answer the draft, as a task to watch, begun when it has to be. Null when the
   * index can already. What is stored is stored whatever becomes of it.
   */
  indexing(name: string): Indexing | null {
    const { id } = this.#collections.row(name);
    const known = this.#indexing.get(id);
    if (known) return known;
    const rebuild = this.#indexManager.ensure(id);
    if (rebuild === null) return null;
    const taskId = randomUUID();
    this.#tasks.begin(taskId, 'index', name, () => {});
    this.#tasks.update(taskId, { step: 'indexing', total: rebuild.records });
    const told = setInterval(() => {
      this.#tasks.update(taskId, { done: Math.round(rebuild.progress * rebuild.records) });
    }, TOLD_EVERY_MS);
    const ended = rebuild.ended
      .then(
        () => this.#tasks.end(taskId, { state: 'done', done: rebuild.records }),
        (error: Error) => this.#tasks.end(taskId, { state: 'failed', errors: [{ detail: error.message }] }),
      )
      .finally(() => {
        clearInterval(told);
        this.#indexing.delete(id);
      });
    const indexing = { taskId, ended };
    this.#indexing.set(id, indexing);
    return indexing;
  }

  /** Settles when no build is under way any more. */
  async settled(): Promise<void> {
    await Promise.allSettled([...this.#indexing.values()].map(({ ended }) => ended));
  }

  /** What saving a draft would take. Throws a Failure when it is not valid. */
  cost(name: string, input: unknown): { rebuild: boolean; records: number; aboutS: number } {
    return this.#indexManager.costOf(this.#collections.row(name).id, checkTuning(input));
  }

  async discardDraft(name: string): Promise<void> {
    const { id } = this.#collections.row(name);
    await this.#indexManager.retune(id, () => this.#versions.dropDraft(id));
  }

  /** Makes the draft live in one step; returns the new version. Returns the live version when there is no draft. */
  async publish(name: string, note: string | null): Promise<number> {
    const { id } = this.#collections.row(name);
    for (;;) {
      await this.#indexManager.ensure(id)?.ended;
      // The draft as it is when it is the publishing's turn: one that was saved before that goes live, a later one
      // stays.
      const version = await this.#indexManager.retune(id, () => {
        const document = this.#versions.draft(id);
        // It was changed meanwhile, into one that the index cannot answer yet.
        if (document !== null && !this.#indexManager.canAnswer(id, [document])) return null;
        return this.#makeLive(id, document, note);
      });
      if (version !== null) return version;
    }
  }

  #makeLive(collectionId: number, document: TuningDocument | null, note: string | null): number {
    return this.#db.$client
      .transaction((): number => {
        const { liveVersion } = this.#db.select().from(collections).where(eq(collections.id, collectionId)).get()!;
        if (document === null) return liveVersion;
        const savedAt = new Date().toISOString();
        const version = this.#versions.add(collectionId, liveVersion, document, note, savedAt);
        this.#db
          .update(collections)
          .set({ liveVersion: version, changedAt: savedAt })
          .where(eq(collections.id, collectionId))
          .run();
        this.#versions.dropDraft(collectionId);
        return version;
      })
      .immediate();
  }

  versions(name: string): VersionEntry[] {
    const { id, liveVersion } = this.#collections.row(name);
    return this.#versions.list(id, liveVersion);
  }
}

/** Checks a tuning document beyond its schema. Throws a Failure with pointers. */
export function checkTuning(input: unknown): TuningDocument {
  const document = validate('Tuning', input);
  const names = <T>(list: readonly T[] | undefined, read: (item: T) => string): string[] => (list ?? []).map(read);
  const parts = [
    ...repeated(
      names(document.search, ({ field }) => field),
      'search',
      'field',
    ),
    ...repeated(
      names(document.facets, ({ name }) => name),
      'facets',
      'name',
    ),
    ...repeated(
      names(document.sorts, ({ name }) => name),
      'sorts',
      'name',
    ),
    ...repeated(
      names(document.placements, ({ name }) => name),
      'placements',
      'name',
    ),
    ...repeated(
      names(document.otherLanguages, ({ language }) => language),
      'otherLanguages',
      'language',
    ),
    ...fieldsOfTwoLanguages(document),
    ...badBuckets(document),
    ...badConditions(document),
    ...reservedSorts(document),
  ];
  const { oneFrom = 4, twoFrom = 8 } = document.typos ?? {};
  if (twoFrom < oneFrom)
    parts.push({ pointer: '/typos/twoFrom', detail: `must not be less than oneFrom (${oneFrom})` });
  if (parts.length > 0) throw new Failure('invalid', 'The tuning document does not fit together.', parts);
  return document;
}

type BadPart = { pointer: string; detail: string };

function fieldsOfTwoLanguages({ otherLanguages = [] }: TuningDocument): BadPart[] {
  const taken = new Map<string, string>();
  return otherLanguages.flatMap(({ language, fields = [] }, i) =>
    fields.flatMap((field, n) => {
      const other = taken.get(field);
      if (other === undefined) taken.set(field, language);
      const detail = `“${field}” is in the list of “${other}” already; a field has one language`;
      return other === undefined || other === language ? [] : [{ pointer: `/otherLanguages/${i}/fields/${n}`, detail }];
    }),
  );
}

function badBuckets({ facets = [] }: TuningDocument): BadPart[] {
  return facets.flatMap(({ buckets }, i) =>
    buckets?.some((edge, n) => n > 0 && edge <= buckets[n - 1]!)
      ? [{ pointer: `/facets/${i}/buckets`, detail: 'must ascend: each edge above the one before' }]
      : [],
  );
}

function reservedSorts({ sorts = [] }: TuningDocument): BadPart[] {
  return sorts.flatMap(({ name }, i) =>
    name === 'relevance' || name === 'distance'
      ? [{ pointer: `/sorts/${i}/name`, detail: `“${name}” is built in; choose another name` }]
      : [],
  );
}

/** Conditions that cannot be read. Whether their fields exist shows when there are records. */
function badConditions({ placements = [] }: TuningDocument): BadPart[] {
  return placements.flatMap((placement, i) =>
    (['lift', 'sink'] as const).flatMap((list) =>
      (placement[list] ?? []).flatMap((source, n) => {
        try {
          parseFilter(source);
          return [];
        } catch (error) {
          return [{ pointer: `/placements/${i}/${list}/${n}`, detail: (error as Error).message }];
        }
      }),
    ),
  );
}

function repeated(values: string[], list: string, property: string): { pointer: string; detail: string }[] {
  return values.flatMap((value, i) =>
    values.indexOf(value) < i
      ? [{ pointer: `/${list}/${i}/${property}`, detail: `“${value}” is in the list twice` }]
      : [],
  );
}
