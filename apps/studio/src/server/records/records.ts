import type { Page, RecordJson, Task } from '@yucca/contract';
import { pick } from '@yucca/engine';
import { and, asc, eq } from 'drizzle-orm';
import { randomUUID } from 'node:crypto';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { records } from '../db/schema';
import { Failure } from '../failure';
import type { Catalogue } from '../index/catalogue';
import type { Tasks } from '../tasks/tasks';
import type { Tunings } from '../tuning/tuning';
import type { KeeperEvent, KeeperMethods } from '../workers/keeper-worker';
import { isRemoteError, type RemoteThread } from '../workers/rpc';
import type { LoadProgress } from './load-job';
import { READERS } from './readers';
import type { WriteMode, WriteOutcome } from './record-store';

export interface LoadRequest {
  /** Chosen by the sender, so that it can watch while it still sends. */
  taskId?: string | undefined;
  mediaType: string;
  gzip: boolean;
  mode: WriteMode;
  assignKeys: boolean;
  /** Bytes to come, when known: an estimate of the rows is made from them. */
  bytes: number | null;
  body: AsyncIterable<Uint8Array>;
}

/** Records: loading, reading, and changing one. */
export class Records {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #catalogue: Catalogue;
  readonly #tunings: Tunings;
  readonly #tasks: Tasks;
  readonly #keeper: RemoteThread<KeeperMethods>;
  /** Bytes expected by the loads that run. */
  readonly #expected = new Map<string, number | null>();

  constructor(parts: {
    db: Db;
    collections: Collections;
    catalogue: Catalogue;
    tunings: Tunings;
    tasks: Tasks;
    keeper: RemoteThread<KeeperMethods>;
  }) {
    this.#db = parts.db;
    this.#collections = parts.collections;
    this.#catalogue = parts.catalogue;
    this.#tunings = parts.tunings;
    this.#tasks = parts.tasks;
    this.#keeper = parts.keeper;
  }

  /** What the keeper says while it loads. */
  onKeeperEvent({ load, progress }: KeeperEvent): void {
    this.#tasks.update(load, this.#asTask(load, progress));
  }

  #asTask(id: string, { bytes, done, failed, repeated, errors }: LoadProgress): Partial<Task> {
    const expected = this.#expected.get(id) ?? null;
    const rows = done + failed;
    const total = expected === null || bytes === 0 ? rows : Math.max(rows, Math.round((rows * expected) / bytes));
    return { done, failed, repeated, errors, total };
  }

  /**
   * Takes in a whole input. Answers when all of it is stored, with the task: `searchable` comes true a moment later, when
   * the index has caught up. A bad row never stops the good ones.
   */
  async load(name: string, request: LoadRequest): Promise<{ task: Task; searchable: Promise<Task> }> {
    const { id: collectionId, keyField } = this.#collections.row(name);
    const { mediaType, gzip, mode, assignKeys, bytes, body } = request;
    if (!(mediaType in READERS)) {
      throw new Failure(
        'unsupported-type',
        `Records come as ${Object.keys(READERS).join(', ')}; this was sent as “${mediaType || 'nothing'}”.`,
      );
    }
    const id = request.taskId ?? randomUUID();
    this.#tasks.begin(id, 'load', name, () => this.#keeper.send('loadCancel', [id]));
    this.#expected.set(id, gzip ? null : bytes);
    const progress = await this.#pump(id, { collectionId, keyField, mediaType, gzip, mode, assignKeys }, body);
    this.#tasks.update(id, { ...this.#asTask(id, progress), total: progress.done + progress.failed, step: 'indexing' });
    this.#expected.delete(id);
    const searchable = this.#makeSearchable(name, collectionId).then(
      () => this.#tasks.end(id, { state: nothingCame(progress) ? 'failed' : progress.state, ...emptyNote(progress) }),
      (error: Error) =>
        this.#tasks.end(id, {
          state: 'failed',
          errors: [...progress.errors, { detail: `The records are stored, but indexing failed: ${error.message}` }],
        }),
    );
    return { task: this.#tasks.get(id), searchable };
  }

  async #pump(
    id: string,
    options: Parameters<KeeperMethods['loadBegin']>[1],
    body: AsyncIterable<Uint8Array>,
  ): Promise<LoadProgress> {
    await this.#keeper.call('loadBegin', [id, options]);
    let broken: string | null = null;
    try {
      for await (const chunk of body) await this.#keeper.call('loadChunk', [id, chunk]);
    } catch {
      broken = 'The connection ended before the whole input had come. What had come is kept.';
    }
    return this.#keeper.call('loadEnd', [id, broken]);
  }

  async #makeSearchable(name: string, collectionId: number): Promise<void> {
    const first = this.#collections.understand(name);
    if (first === null) return this.#catalogue.refresh(collectionId);
    await this.#tunings.replaceDraft(name, first);
    await this.#tunings.publish(name, 'Facets guessed from the data');
    await this.#catalogue.refresh(collectionId);
  }

  list(name: string, page: number, size: number, fields: readonly string[] = ['*']): Page<RecordJson> {
    const { id, records: total } = this.#collections.row(name);
    const rows = this.#db
      .select({ json: records.json })
      .from(records)
      .where(eq(records.collectionId, id))
      .orderBy(asc(records.order))
      .limit(size)
      .offset((page - 1) * size)
      .all();
    const items = rows.map(({ json }) => pick(JSON.parse(json) as RecordJson, fields));
    return { items, total, page, pages: size === 0 ? 0 : Math.ceil(total / size), size };
  }

  get(name: string, key: string): RecordJson {
    const { id } = this.#collections.row(name);
    const row = this.#db
      .select({ json: records.json })
      .from(records)
      .where(and(eq(records.collectionId, id), eq(records.key, key)))
      .get();
    if (!row) throw new Failure('not-found', `“${name}” has no record with the key “${key}”.`);
    return JSON.parse(row.json) as RecordJson;
  }

  /** Writes one record; it can be searched when this answers. */
  async put(name: string, key: string, record: unknown, mode: WriteMode): Promise<WriteOutcome> {
    const { id, keyField } = this.#collections.row(name);
    if (mode === 'merge') this.get(name, key);
    const outcome = await this.#keeper.call('put', [id, key, record, mode, keyField]).catch(asFailure);
    if (outcome.did !== 'unchanged') await this.#catalogue.refresh(id);
    return outcome;
  }

  /** Deletes records; answers how many there were. None of them is found when this answers. */
  async remove(name: string, keys: string[]): Promise<number> {
    const { id } = this.#collections.row(name);
    const removed = await this.#keeper.call('remove', [id, keys]);
    if (removed > 0) await this.#catalogue.refresh(id);
    return removed;
  }
}

function asFailure(error: unknown): never {
  if (isRemoteError(error) && error.note.name === 'RecordError')
    throw new Failure('invalid', `Not stored: ${error.message}.`);
  throw error;
}

const nothingCame = ({ done, failed, errors }: LoadProgress): boolean => done + failed + errors.length === 0;

function emptyNote(progress: LoadProgress): Partial<Task> {
  return nothingCame(progress) && progress.state === 'done'
    ? { errors: [{ detail: 'The input held no records.' }] }
    : {};
}
