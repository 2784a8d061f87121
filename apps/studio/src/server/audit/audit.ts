import type { AuditEntry, Page } from '@yucca/contract';
import { count, desc, eq, lt } from 'drizzle-orm';
import type { Db } from '../db/open';
import { audit } from '../db/schema';
import { listPage } from '../list-page';

/** One change before it has a number. */
export type AuditNote = Omit<AuditEntry, 'id' | 'at'>;

/** Changes kept; the oldest go first. */
const KEPT = 100_000;
const LOOK_EVERY = 1_000;
/** Notes that wait while the disk takes nothing. */
const MOST_WAITING = 10_000;
const EXPORT_PIECE = 1_000;

/** Who changed what, and when. */
export class Audit {
  readonly #db: Db;
  #waiting: { note: AuditNote; at: string }[] = [];
  #written = 0;

  constructor(db: Db) {
    this.#db = db;
  }

  /**
   * Notes a change. It is written in the background, within a second; a crash may take the last second's notes along.
   */
  note(note: AuditNote): void {
    this.#waiting.push({ note, at: new Date().toISOString() });
  }

  /** The notes since this was asked last, for whoever writes them. */
  takeNotes(): { note: AuditNote; at: string }[] {
    const notes = this.#waiting;
    this.#waiting = [];
    return notes;
  }

  /** Takes notes back that could not be written, as many as may wait. */
  giveBack(notes: readonly { note: AuditNote; at: string }[]): void {
    this.#waiting = [...notes, ...this.#waiting].slice(-MOST_WAITING);
  }

  /** Writes what waits, on this connection. */
  flush(): void {
    writeNotes(this.#db, this.takeNotes());
    this.#written++;
    if (this.#written % LOOK_EVERY === 0) trimAudit(this.#db);
  }

  /** A page of the trail, the newest change first. */
  list({ page, size, collection }: AuditQuery): Page<AuditEntry> {
    this.flush();
    const where = collection === null ? undefined : eq(audit.collection, collection);
    const total = this.#db.select({ all: count() }).from(audit).where(where).get()!.all;
    const rows = this.#db
      .select()
      .from(audit)
      .where(where)
      .orderBy(desc(audit.id))
      .limit(size)
      .offset((page - 1) * size)
      .all();
    return listPage(rows.map(present), total, page, size);
  }

  /** All of the trail, the newest first, in pieces. */
  *all(): Generator<AuditEntry[]> {
    this.flush();
    for (let below = Number.MAX_SAFE_INTEGER; ;) {
      const rows = this.#db
        .select()
        .from(audit)
        .where(lt(audit.id, below))
        .orderBy(desc(audit.id))
        .limit(EXPORT_PIECE)
        .all();
      if (rows.length === 0) return;
      yield rows.map(present);
      below = rows.at(-1)!.id;
    }
  }
}

export interface AuditQuery {
  page: number;
  size: number;
  /** Changes of this collection alone. */
  collection: string | null;
}

function present({ detail, ...rest }: typeof audit.$inferSelect): AuditEntry {
  return { ...rest, detail: detail === null ? null : (JSON.parse(detail) as AuditEntry['detail']) };
}

/** Writes notes, on whichever connection. */
export function writeNotes(db: Db, notes: readonly { note: AuditNote; at: string }[]): void {
  if (notes.length === 0) return;
  const rows = notes.map(({ note: { detail, ...note }, at }) => ({
    ...note,
    at,
    detail: detail === null ? null : JSON.stringify(detail),
  }));
  for (let at = 0; at < rows.length; at += 500)
    db.insert(audit)
      .values(rows.slice(at, at + 500))
      .run();
}

/** Gives up the oldest changes when there are too many. */
export function trimAudit(db: Db, kept = KEPT): void {
  const newest = db.select({ id: audit.id }).from(audit).orderBy(desc(audit.id)).limit(1).get();
  if (newest)
    db.delete(audit)
      .where(lt(audit.id, newest.id - kept + 1))
      .run();
}
