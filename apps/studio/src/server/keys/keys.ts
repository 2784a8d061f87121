import type { Key, NewKey, Right } from '@yucca/contract';
import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import { asc, eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { keys, settings } from '../db/schema';
import { Failure } from '../failure';

/** Who asks. `studio` = the studio's own pages on this machine. */
export interface Caller {
  label: string;
  rights: readonly Right[];
}

const STUDIO: Caller = { label: 'studio', rights: ['admin'] };
/** What each right lets one do besides itself. */
const INCLUDES: Record<Right, readonly Right[]> = {
  search: ['search'],
  read: ['read', 'search'],
  write: ['write'],
  admin: ['admin', 'write', 'read', 'search'],
};

const hash = (secret: string): string => createHash('sha256').update(secret).digest('hex');

/** The setting that holds the secret the hosted pages show; it can do nothing but search, so it may be seen. */
const PAGE_KEY = 'page-key';

/** Keys: who may do what. Only hashes of secrets are kept. */
export class Keys {
  readonly #db: Db;
  readonly #adminHash: string | null;
  readonly #known = new Map<string, Caller>();

  constructor(db: Db, adminKey: string | null) {
    this.#db = db;
    this.#adminHash = adminKey === null ? null : hash(adminKey);
  }

  /** Makes the keys a new data folder needs. Answers the admin key when one was made: it is shown this once. */
  prepare(): string | null {
    if (this.#setting(PAGE_KEY) === null) {
      const secret = this.create({ label: 'Search pages', rights: ['search'] }).secret;
      this.#db.insert(settings).values({ name: PAGE_KEY, value: secret }).run();
    }
    const hasAdmin = this.#db
      .select({ rights: keys.rights })
      .from(keys)
      .all()
      .some(({ rights }) => rights.includes('"admin"'));
    return this.#adminHash !== null || hasAdmin
      ? null
      : this.create({ label: 'First admin key', rights: ['admin'] }).secret;
  }

  /** Makes a key. The secret is in the answer and nowhere else: only its hash is kept. */
  create({ label, rights }: NewKey): { key: Key; secret: string } {
    const secret = `yk_${randomBytes(24).toString('base64url')}`;
    const row = this.#db
      .insert(keys)
      .values({ id: randomUUID(), label, secretHash: hash(secret), rights: JSON.stringify(rights) })
      .returning()
      .get();
    return { key: present(row), secret };
  }

  list(): Key[] {
    return this.#db.select().from(keys).orderBy(asc(keys.createdAt)).all().map(present);
  }

  /** Makes a key worthless from now on. The key of the search pages stays: they would stop working. */
  remove(id: string): void {
    const row = this.#db.select().from(keys).where(eq(keys.id, id)).get();
    if (!row) throw new Failure('not-found', `There is no key ${id}.`);
    if (row.secretHash === hash(this.pageKey())) throw new Failure('conflict', 'The search pages use this key.');
    this.#db.delete(keys).where(eq(keys.id, id)).run();
    this.#known.delete(row.secretHash);
  }

  /** The search key that the hosted pages carry. */
  pageKey(): string {
    return this.#setting(PAGE_KEY) ?? '';
  }

  #setting(name: string): string | null {
    return this.#db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? null;
  }

  /** Who holds this secret. Throws a Failure when nobody does. */
  bySecret(secret: string): Caller {
    const secretHash = hash(secret);
    if (this.#adminHash !== null && timingSafeEqual(Buffer.from(secretHash), Buffer.from(this.#adminHash))) {
      return { label: 'admin', rights: ['admin'] };
    }
    const known = this.#known.get(secretHash);
    if (known) return known;
    const row = this.#db.select().from(keys).where(eq(keys.secretHash, secretHash)).get();
    if (!row) throw new Failure('unauthorised', 'This key is not known. Check that it was copied whole.');
    const caller: Caller = { label: row.label, rights: JSON.parse(row.rights) as Right[] };
    this.#known.set(secretHash, caller);
    return caller;
  }

  static studio(): Caller {
    return STUDIO;
  }
}

function present({ id, label, rights, createdAt }: typeof keys.$inferSelect): Key {
  return { id, label, rights: JSON.parse(rights) as Right[], createdAt };
}

/** Throws a Failure when the caller lacks a right. */
export function requireRight(caller: Caller, right: Right): void {
  if (!caller.rights.some((held) => INCLUDES[held].includes(right))) {
    throw new Failure(
      'forbidden',
      `This needs the right to ${right === 'admin' ? 'administer' : right}; the key “${caller.label}” does not have it.`,
    );
  }
}
