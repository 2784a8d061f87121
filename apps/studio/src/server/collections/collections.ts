import type { Card, Collection, CollectionPatch, NewCollection } from '@yucca/contract';
import { readableName } from '@yucca/contract';
import { and, asc, count, countDistinct, eq, isNotNull, sql } from 'drizzle-orm';
import { feeds } from '../db/feeds-schema';
import { insightDays } from '../db/insights-schema';
import type { Db } from '../db/open';
import { collections, judgements, tunings } from '../db/schema';
import { Failure } from '../failure';
import type { IndexManager } from '../index/index-manager';

type Row = typeof collections.$inferSelect & { name: string };

/** Making the statement anew takes twenty times as long as running it. */
const byName = (db: Db) =>
  db
    .select()
    .from(collections)
    .where(eq(collections.name, sql.placeholder('name')))
    .prepare();

const liveById = (db: Db) =>
  db
    .select({ liveVersion: collections.liveVersion })
    .from(collections)
    .where(eq(collections.id, sql.placeholder('id')))
    .prepare();

export interface CollectionsParts {
  db: Db;
  indexManager: IndexManager;
}

/** Collections: their making, listing and unmaking. */
export class Collections {
  readonly #db: Db;
  readonly #indexManager: IndexManager;
  readonly #byName: ReturnType<typeof byName>;
  readonly #liveById: ReturnType<typeof liveById>;
  /** Every search asks for the number, which a name keeps until the collection is removed, here and nowhere else. */
  readonly #ids = new Map<string, number>();
  #count: number | null = null;

  constructor({ db, indexManager }: CollectionsParts) {
    this.#db = db;
    this.#indexManager = indexManager;
    this.#byName = byName(db);
    this.#liveById = liveById(db);
  }

  /** The row of a collection. Throws a Failure when there is none. */
  row(name: string): Row {
    const row = this.#byName.get({ name });
    if (!row) throw new Failure('not-found', `There is no collection called “${name}”.`);
    return row as Row;
  }

  /** The number of the version that visitors get. */
  liveVersionOf(id: number): number {
    return this.#liveById.get({ id })?.liveVersion ?? 0;
  }

  /** The number of a collection. Throws a Failure when there is none. */
  idOf(name: string): number {
    let id = this.#ids.get(name);
    if (id === undefined) this.#ids.set(name, (id = this.row(name).id));
    return id;
  }

  has(name: string): boolean {
    return (
      this.#db.select({ id: collections.id }).from(collections).where(eq(collections.name, name)).get() !== undefined
    );
  }

  get(name: string): Collection {
    return this.#present(this.row(name));
  }

  /** How many there are; known without asking the database, because whatever looks after a server asks all the time. */
  count(): number {
    return (this.#count ??= this.#db
      .select({ all: count() })
      .from(collections)
      .where(isNotNull(collections.name))
      .get()!.all);
  }

  /** Names and numbers of all. */
  ids(): { name: string; id: number }[] {
    return this.#db
      .select({ name: collections.name, id: collections.id })
      .from(collections)
      .where(isNotNull(collections.name))
      .orderBy(asc(collections.name))
      .all() as { name: string; id: number }[];
  }

  list(): Collection[] {
    const rows = this.#db
      .select()
      .from(collections)
      .where(isNotNull(collections.name))
      .orderBy(asc(collections.name))
      .all();
    return rows.map((row) => this.#present(row as Row));
  }

  #present(row: Row): Collection {
    const { name, title, keyField, records: count, liveVersion, createdAt, changedAt } = row;
    const draft = this.#db
      .select({ version: tunings.version })
      .from(tunings)
      .where(and(eq(tunings.ownerId, row.id), eq(tunings.version, 0)))
      .get();
    const { generation, bytes } = this.#indexManager.facts(row.id);
    return {
      name,
      title,
      key: keyField,
      records: count,
      generation,
      bytes,
      liveVersion,
      draftChanged: draft !== undefined,
      feeds: this.#feeds(row.id),
      judged: this.#judged(row.id),
      searched: this.#searched(row.id),
      createdAt,
      changedAt,
    };
  }

  #searched(collectionId: number): boolean {
    const day = this.#db
      .select({ day: insightDays.day })
      .from(insightDays)
      .where(eq(insightDays.collectionId, collectionId))
      .limit(1)
      .get();
    return day !== undefined;
  }

  #feeds(collectionId: number): number {
    const row = this.#db.select({ many: count() }).from(feeds).where(eq(feeds.collectionId, collectionId)).get();
    return row?.many ?? 0;
  }

  #judged(collectionId: number): number {
    const row = this.#db
      .select({ queries: countDistinct(judgements.query) })
      .from(judgements)
      .where(eq(judgements.collectionId, collectionId))
      .get();
    return row?.queries ?? 0;
  }

  async create({ name, title, key }: NewCollection): Promise<Collection> {
    const taken = this.#db.select({ id: collections.id }).from(collections).where(eq(collections.name, name)).get();
    if (taken)
      throw new Failure('conflict', `There is already a collection called “${name}”.`, [
        { pointer: '/name', detail: 'taken' },
      ]);
    const id = this.#db.$client
      .transaction(() => {
        const row = this.#db
          .insert(collections)
          .values({ name, title: title ?? readableName(name), keyField: key ?? 'id' })
          .returning({ id: collections.id })
          .get();
        this.#db.insert(tunings).values({ ownerId: row.id, version: 1, document: '{}', note: 'As created' }).run();
        return row.id;
      })
      .immediate();
    this.#count = null;
    await this.#indexManager.open(id);
    return this.get(name);
  }

  patch(name: string, { title }: CollectionPatch): Collection {
    const { id } = this.row(name);
    if (title !== undefined) this.#db.update(collections).set({ title }).where(eq(collections.id, id)).run();
    return this.get(name);
  }

  /** Takes the collection out of sight at once; its records are cleared away by the writer afterwards. */
  remove(name: string): void {
    const { id } = this.row(name);
    this.#db.update(collections).set({ name: null }).where(eq(collections.id, id)).run();
    this.#ids.delete(name);
    this.#count = null;
    this.#indexManager.forget(id);
  }

  card(name: string): Card {
    const { card } = this.row(name);
    return card === null
      ? { title: null, picture: null, text: null, number: null, detail: null }
      : (JSON.parse(card) as Card);
  }

  /** Whether somebody should look at what the collection holds: after a first load, until a card was guessed. */
  wantsUnderstanding(name: string): { keyField: string } | null {
    const { keyField, card, records: total } = this.row(name);
    return card === null && total > 0 ? { keyField } : null;
  }

  /**
   * Keeps what was guessed of a collection (see `understandRecords`). Returns the first tuning to publish, or null when
   * somebody has made one already.
   */
  understood(
    name: string,
    card: Card,
    fields: readonly string[],
  ): { facets: { name: string; field: string }[] } | null {
    const { id, liveVersion, card: known } = this.row(name);
    if (known !== null) return null;
    this.#db
      .update(collections)
      .set({ card: JSON.stringify(card) })
      .where(eq(collections.id, id))
      .run();
    const touched = this.#db
      .select({ version: tunings.version })
      .from(tunings)
      .where(eq(tunings.ownerId, id))
      .all()
      .some(({ version }) => version === 0);
    if (liveVersion !== 1 || touched || fields.length === 0) return null;
    return { facets: fields.map((field) => ({ name: field, field })) };
  }
}
