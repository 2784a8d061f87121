import type { Page, RecordJson, Task, TuningDocument } from '@yucca/contract';
import { completeTuning, pick } from '@yucca/contract';
import { shownPart } from '@yucca/engine';
import { and, asc, eq } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { records } from '../db/schema';
import { Failure, isFailure } from '../failure';
import { listPage } from '../list-page';
import { existsSync } from 'node:fs';
import type { IndexManager } from '../index/index-manager';
import { GROW_FROM } from '../index/segment-builds';
import type { Tasks } from '../tasks/tasks';
import type { Tunings } from '../tuning/tuning';
import type { WriterMethods } from '../workers/writer-worker';
import { inPieces } from '../scan/in-pieces';
import type { SearchService } from '../search/search';
import type { ScanMethods } from '../workers/scan-worker';
import { isRemoteError, isThreadLost, type RemoteThread } from '../workers/rpc';
import { failedFile } from './failed-lines';
import { nothingLoaded, type LoadProgress } from './load-job';
import { isWhole, WHOLE_READERS } from '@/formats/whole-formats';
import { UTF_8 } from '@/text/charset';
import { PARSERS } from './parsers';
import { wholeAsJson } from './whole-as-json';
import type { WriteMode, WriteOutcome } from './record-store';

export interface LoadRequest {
  /** Chosen by the sender, so that it can watch while it still sends. */
  taskId?: string | undefined;
  mediaType: string;
  gzip: boolean;
  mode: WriteMode;
  assignKeys: boolean;
  nest?: boolean;
  /** JSON: where the records are; see ParserOptions. */
  at?: string | null;
  /** CSV: the line of its header, from 1; null = to be told by the first rows. */
  header?: number | null;
  /** See LoadOptions. */
  charset?: string | null;
  /** Bytes to come, when known: an estimate of the rows is made from them. */
  bytes: number | null;
  body: AsyncIterable<Uint8Array>;
}

export interface ReadOptions {
  /** Field paths; `*` = all. */
  fields?: readonly string[];
  /** Only records that fulfil this. */
  filter?: string | null;
  /** A part of the condition is forced on the caller. */
  forced?: boolean;
}

export interface RecordParts {
  db: Db;
  dataDir: string;
  collections: Collections;
  indexManager: IndexManager;
  tunings: Tunings;
  tasks: Tasks;
  search: SearchService;
  writer: RemoteThread<WriterMethods>;
  scan: () => RemoteThread<ScanMethods>;
}

interface RunningLoad {
  id: string;
  name: string;
  collectionId: number;
  expected: number | null;
  told: LoadProgress;
  /** The tunings that are foreseen for its end; null = nobody has looked yet. */
  coming: Promise<TuningDocument[]> | null;
}

/** Records: loading, reading, and changing one. */
export class Records {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #indexManager: IndexManager;
  readonly #tunings: Tunings;
  readonly #tasks: Tasks;
  readonly #writer: RemoteThread<WriterMethods>;
  readonly #scan: () => RemoteThread<ScanMethods>;
  readonly #search: SearchService;
  readonly #dataDir: string;
  /** The loads that run: bytes expected of them, and what was told of them last. */
  readonly #running = new Map<string, RunningLoad>();

  constructor(parts: RecordParts) {
    this.#db = parts.db;
    this.#collections = parts.collections;
    this.#indexManager = parts.indexManager;
    this.#tunings = parts.tunings;
    this.#tasks = parts.tasks;
    this.#writer = parts.writer;
    this.#scan = parts.scan;
    this.#search = parts.search;
    this.#dataDir = parts.dataDir;
  }

  /** What the writer says while it loads. */
  onProgress(load: string, progress: LoadProgress): void {
    const running = this.#running.get(load);
    if (running) {
      running.told = progress;
      void this.#indexMeanwhile(running);
    }
    this.#tasks.update(load, this.#asTask(load, progress));
  }

  /**
   * Has the index made of what a load has stored so far. Of a collection that was empty, what its first records say of
   * the fields is taken for what all will say: when they say otherwise, the index is made anew after the load.
   */
  async #indexMeanwhile(load: RunningLoad): Promise<void> {
    if (load.told.done < GROW_FROM) return;
    load.coming ??= this.#foreseen(load).catch(() => []);
    const coming = await load.coming;
    if (this.#running.has(load.id)) this.#indexManager.grow(load.collectionId, coming);
  }

  async #foreseen({ name, collectionId }: RunningLoad): Promise<TuningDocument[]> {
    const wanted = this.#collections.wantsUnderstanding(name);
    if (wanted === null) return [];
    const { facets } = await this.#scan().call('understand', [collectionId, wanted.keyField]);
    return [{ facets: facets.map((field) => ({ name: field, field })) }];
  }

  #asTask(id: string, { bytes, done, failed, repeated, errors, failedKept }: LoadProgress): Partial<Task> {
    const expected = this.#running.get(id)?.expected ?? null;
    const rows = done + failed;
    const total = expected === null || bytes === 0 ? rows : Math.max(rows, Math.round((rows * expected) / bytes));
    return { done, failed, repeated, errors, failedKept, total };
  }

  /**
   * Takes in a whole input. Resolves when all of it is stored, with the task: `searchable` comes true a moment later,
   * when the index has caught up. A bad row never stops the good ones. However the input ends, the task ends.
   */
  async load(name: string, request: LoadRequest): Promise<{ task: Task; searchable: Promise<Task> }> {
    const { id: collectionId, keyField } = this.#collections.row(name);
    const {
      mediaType,
      gzip,
      mode,
      assignKeys,
      nest = false,
      at = null,
      header = null,
      charset = null,
      bytes,
      body,
    } = request;
    if (!PARSERS.has(mediaType) && !isWhole(mediaType)) {
      throw new Failure(
        'unsupported-type',
        `Records come as ${[...PARSERS.keys(), ...Object.keys(WHOLE_READERS)].join(', ')}; this was sent as “${mediaType.slice(0, 80) || 'nothing'}”.`,
      );
    }
    const id = request.taskId ?? randomUUID();
    this.#tasks.begin(id, 'load', name, () => this.#writer.send('loadCancel', [id]));
    const expected = gzip ? null : bytes;
    this.#running.set(id, { id, name, collectionId, expected, told: nothingLoaded(), coming: null });
    const common = { collectionId, keyField, mode, assignKeys, nest, header };
    const progress = isWhole(mediaType)
      ? await this.#pump(
          id,
          { ...common, mediaType: 'application/json', gzip: false, at, charset: UTF_8 },
          wholeAsJson(body, (bytes) => this.#scan().call('asJson', [bytes, mediaType, gzip, charset])),
        )
      : await this.#pump(id, { ...common, mediaType, gzip, at, charset }, body);
    this.#tasks.update(id, { ...this.#asTask(id, progress), total: progress.done + progress.failed, step: 'indexing' });
    this.#running.delete(id);
    const ready = this.makeSearchable(name).finally(() => {
      const others = [...this.#running.values()].some((load) => load.collectionId === collectionId);
      if (!others) this.#indexManager.stopGrowing(collectionId);
    });
    const searchable = ready.then(
      () => this.#tasks.end(id, { state: nothingCame(progress) ? 'failed' : progress.state, ...emptyNote(progress) }),
      (error: Error) =>
        this.#tasks.end(id, {
          state: progress.state === 'cancelled' ? 'cancelled' : 'failed',
          errors: [
            ...progress.errors,
            {
              detail: isGone(error)
                ? 'The collection was deleted while this ran.'
                : `The records are stored, but indexing failed: ${error.message}`,
            },
          ],
        }),
    );
    return { task: this.#tasks.get(id), searchable };
  }

  /** Hands an input over, piece by piece. Returns what came of it, whatever breaks on the way. */
  async #pump(
    id: string,
    options: Parameters<WriterMethods['loadBegin']>[1],
    body: AsyncIterable<Uint8Array>,
  ): Promise<LoadProgress> {
    try {
      await this.#writer.call('loadBegin', [id, options]);
      return await this.#writer.call('loadEnd', [id, await this.#send(id, body)]);
    } catch (error) {
      // The thread that wrote is gone, or made a mistake: what it told last is stored, and perhaps a little more.
      const told = this.#running.get(id)?.told ?? nothingLoaded();
      const detail = isThreadLost(error)
        ? error.message
        : `Yucca made a mistake while loading: ${(error as Error).message}`;
      return { ...told, state: 'failed', errors: [...told.errors, { detail }] };
    }
  }

  /** Sends the bytes. Returns why they ended before their end; null when they did not. */
  async #send(id: string, body: AsyncIterable<Uint8Array>): Promise<string | null> {
    try {
      for await (const chunk of body) if (!(await this.#writer.call('loadChunk', [id, chunk]))) break;
      return null;
    } catch (error) {
      if (isThreadLost(error) || isRemoteError(error)) throw error;
      return isFailure(error)
        ? error.message
        : 'The connection ended before the whole input had come. What had come is kept.';
    }
  }

  /** Ends the loads into a collection. */
  cancelLoads(name: string): void {
    for (const [id, load] of this.#running) if (load.name === name) this.#writer.send('loadCancel', [id]);
  }

  /** Shows what was written; of a collection that was empty, what its fields are for is guessed first. */
  async makeSearchable(name: string): Promise<void> {
    const collectionId = this.#collections.row(name).id;
    const wanted = this.#collections.wantsUnderstanding(name);
    if (wanted !== null) {
      const { card, facets } = await this.#scan().call('understand', [collectionId, wanted.keyField]);
      const first = this.#collections.understood(name, card, facets);
      if (first !== null) {
        await this.#tunings.replaceDraft(name, first);
        await this.#tunings.publish(name, 'Facets guessed from the data');
      }
    }
    await this.#indexManager.refresh(collectionId);
  }

  /**
   * A page of records in record order; with a condition, of those that fulfil it. The index says which those are; what
   * is sent was looked at once more, because a record may have changed since.
   */
  async list(
    name: string,
    page: number,
    size: number,
    { fields = ['*'], filter = null, forced = false }: ReadOptions = {},
  ): Promise<Page<RecordJson>> {
    const { id, records: all } = this.#collections.row(name);
    const found = filter === null ? null : await this.#search.keysPage(name, filter, (page - 1) * size, size, !forced);
    const total = found === null ? all : found.total;
    const rows = found === null ? this.#slice(id, page, size) : await this.#search.rowsThat(name, filter!, found.keys);
    const items = rows.map((json) => pick(JSON.parse(json) as RecordJson, fields));
    return listPage(items, total, page, size);
  }

  #slice(collectionId: number, page: number, size: number): string[] {
    return this.#db
      .select({ json: records.json })
      .from(records)
      .where(eq(records.collectionId, collectionId))
      .orderBy(asc(records.order))
      .limit(size)
      .offset((page - 1) * size)
      .all()
      .map(({ json }) => json);
  }

  #find(collectionId: number, key: string): string | null {
    const row = this.#db
      .select({ json: records.json })
      .from(records)
      .where(and(eq(records.collectionId, collectionId), eq(records.key, key)))
      .get();
    return row?.json ?? null;
  }

  /**
   * One record. Throws a Failure when there is none, or `filter` hides it, just as it stands there, from whoever asks.
   */
  async get(name: string, key: string, filter: string | null = null): Promise<RecordJson> {
    const { id } = this.#collections.row(name);
    const json =
      filter === null ? this.#find(id, key) : ((await this.#search.rowsThat(name, filter, [key]))[0] ?? null);
    if (json === null) throw new Failure('not-found', `“${name}” has no record with the key “${key}”.`);
    return JSON.parse(json) as RecordJson;
  }

  /** One record as visitors may see it: with the fields that the live tuning shows. */
  async shown(name: string, key: string): Promise<RecordJson> {
    const { show, hide } = completeTuning(this.#tunings.get(name, 'live'));
    return shownPart(await this.get(name, key), show, hide);
  }

  /** All records, or those that fulfil a condition, as text in pieces. */
  async *export(
    name: string,
    format: 'ndjson' | 'csv',
    {
      fields = ['*'],
      filter = null,
      forced = false,
      forSpreadsheets = false,
    }: ReadOptions & { forSpreadsheets?: boolean } = {},
  ): AsyncGenerator<string | Uint8Array> {
    const { id: collectionId } = this.#collections.row(name);
    // Asked for nothing, so that what is wrong with the condition is told by whoever knows the fields.
    if (filter !== null) await this.#search.keysPage(name, filter, 0, 0, !forced);
    const scan = this.#scan();
    const order = { collectionId, format, fields: [...fields], filter, forSpreadsheets };
    yield* inPieces(scan, (id) => scan.call('exportBegin', [id, order]).catch(asFailure));
  }

  /** The file with the failed lines of a load. Throws a Failure when there is none. */
  failedLines(taskId: string): string {
    const file = failedFile(this.#dataDir, this.#tasks.get(taskId).id);
    if (!existsSync(file)) throw new Failure('not-found', `No failed lines of task ${taskId} are kept.`);
    return file;
  }

  /** Writes one record; it can be searched when this answers. */
  async put(name: string, key: string, record: unknown, mode: WriteMode): Promise<WriteOutcome> {
    const { id, keyField } = this.#collections.row(name);
    if (mode === 'merge') await this.get(name, key);
    const outcome = await this.#writer.call('put', [id, key, JSON.stringify(record), mode, keyField]).catch(asFailure);
    if (outcome.did !== 'unchanged') await this.#indexManager.refresh(id);
    return outcome;
  }

  /**
   * Deletes records; returns how many there were. None of them is found when this answers. With a condition, only those
   * that fulfil it at the moment they are deleted.
   */
  async remove(name: string, keys: string[], filter: string | null = null): Promise<number> {
    const { id } = this.#collections.row(name);
    const removed = await this.#writer.call('remove', [id, keys, filter]).catch(asFailure);
    if (removed > 0) await this.#indexManager.refresh(id);
    return removed;
  }
}

function asFailure(error: unknown): never {
  if (isRemoteError(error) && error.note.name === 'SearchRequestError')
    throw new Failure('invalid', error.message, [{ pointer: '/filter', detail: error.message }]);
  if (isRemoteError(error) && error.note.name === 'RecordError')
    throw new Failure('invalid', `Not stored: ${error.message}.`);
  if (isGone(error)) throw new Failure('not-found', 'The collection was deleted meanwhile.');
  throw error;
}

const isGone = (error: unknown): boolean => isRemoteError(error) && error.note.name === 'CollectionGone';

const nothingCame = ({ done, failed, errors }: LoadProgress): boolean => done + failed + errors.length === 0;

function emptyNote(progress: LoadProgress): Partial<Task> {
  return nothingCame(progress) && progress.state === 'done'
    ? { errors: [{ detail: 'The input held no records.' }] }
    : {};
}
