import { and, desc, eq, gt } from 'drizzle-orm';
import type { Db } from '../db/open';
import type { VersionTable } from '../db/schema';
import { etagOf } from '../etag';
import { Failure } from '../failure';

/** One version of a document, as a history lists it. */
export interface VersionEntry {
  version: number;
  note: string | null;
  savedAt: string;
  live: boolean;
}

const DRAFT = 0;

/** A document's text on its way: what a draft is told by, another one for every other document. */
export const tagOf = (document: object): string => etagOf(JSON.stringify(document));

/**
 * Documents with a draft and a history, of any kind: tunings of collections, designs of pages. Which version is live is
 * known to whoever owns the document.
 */
export class Versions<D extends object> {
  readonly #db: Db;
  readonly #table: VersionTable;

  constructor(db: Db, table: VersionTable) {
    this.#db = db;
    this.#table = table;
  }

  /** A version's document; with no draft, the draft is the live one. Null when there is no such version. */
  read(ownerId: number, liveVersion: number, wanted: 'live' | 'draft' | number): D | null {
    const version = wanted === 'live' ? liveVersion : wanted === 'draft' ? DRAFT : wanted;
    const text = this.#text(ownerId, version) ?? (version === DRAFT ? this.#text(ownerId, liveVersion) : null);
    return text === null ? null : (JSON.parse(text) as D);
  }

  /** The draft, when there is one. */
  draft(ownerId: number): D | null {
    const text = this.#text(ownerId, DRAFT);
    return text === null ? null : (JSON.parse(text) as D);
  }

  hasDraft(ownerId: number): boolean {
    return this.#text(ownerId, DRAFT) !== null;
  }

  #text(ownerId: number, version: number): string | null {
    const row = this.#db
      .select({ document: this.#table.document })
      .from(this.#table)
      .where(this.#is(ownerId, version))
      .get();
    return row?.document ?? null;
  }

  #is(ownerId: number, version: number) {
    return and(eq(this.#table.ownerId, ownerId), eq(this.#table.version, version));
  }

  /** Throws a Failure when the draft is not the one that was read (RFC 9110, `If-Match`). */
  requireTag(ownerId: number, liveVersion: number, onlyIf: string | null): void {
    if (onlyIf === null || onlyIf === '*') return;
    // As it is stored: reading thousands of synonyms only to write them out again took longer than all else.
    if (onlyIf === etagOf(this.#text(ownerId, DRAFT) ?? this.#text(ownerId, liveVersion) ?? '{}')) return;
    throw new Failure('stale', 'The draft has been changed elsewhere since you read it. Read it again.');
  }

  storeDraft(ownerId: number, document: D): void {
    const values = { document: JSON.stringify(document), savedAt: new Date().toISOString() };
    this.#db
      .insert(this.#table)
      .values({ ownerId, version: DRAFT, ...values })
      .onConflictDoUpdate({ target: [this.#table.ownerId, this.#table.version], set: values })
      .run();
  }

  dropDraft(ownerId: number): void {
    this.#db.delete(this.#table).where(this.#is(ownerId, DRAFT)).run();
  }

  /** Adds a version after the newest, within the caller's transaction; returns its number. */
  add(ownerId: number, liveVersion: number, document: D, note: string | null, savedAt: string): number {
    const newest = this.#db
      .select({ version: this.#table.version })
      .from(this.#table)
      .where(eq(this.#table.ownerId, ownerId))
      .orderBy(desc(this.#table.version))
      .get();
    const version = Math.max(newest?.version ?? 0, liveVersion) + 1;
    this.#db
      .insert(this.#table)
      .values({ ownerId, version, document: JSON.stringify(document), note, savedAt })
      .run();
    return version;
  }

  /** The versions there are, the newest first. */
  list(ownerId: number, liveVersion: number): VersionEntry[] {
    const rows = this.#db
      .select()
      .from(this.#table)
      .where(and(eq(this.#table.ownerId, ownerId), gt(this.#table.version, DRAFT)))
      .orderBy(desc(this.#table.version))
      .all();
    return rows.map(({ version, note, savedAt }) => ({ version, note, savedAt, live: version === liveVersion }));
  }

  /** Forgets a document with all its versions. */
  remove(ownerId: number): void {
    this.#db.delete(this.#table).where(eq(this.#table.ownerId, ownerId)).run();
  }
}
