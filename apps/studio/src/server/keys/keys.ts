import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import { eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { keys, settings } from '../db/schema';
import { Failure } from '../failure';

export type Right = 'search' | 'read' | 'write' | 'admin';

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
      const secret = this.create('Search pages', ['search']);
      this.#db.insert(settings).values({ name: PAGE_KEY, value: secret }).run();
    }
    const hasAdmin = this.#db
      .select({ rights: keys.rights })
      .from(keys)
      .all()
      .some(({ rights }) => rights.includes('"admin"'));
    return this.#adminHash !== null || hasAdmin ? null : this.create('First admin key', ['admin']);
  }

  create(label: string, rights: Right[]): string {
    const secret = `yk_${randomBytes(24).toString('base64url')}`;
    this.#db
      .insert(keys)
      .values({ id: randomUUID(), label, secretHash: hash(secret), rights: JSON.stringify(rights) })
      .run();
    return secret;
  }

  /** The search key that the hosted pages carry. */
  pageKey(): string {
    return this.#setting(PAGE_KEY) ?? '';
  }

  #setting(name: string): string | null {
    return this.#db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? null;
  }

  /** Who holds this secret. Throws a Failure when nobody does. */
  bysecret(secret: string): Caller {
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

/** Throws a Failure when the caller lacks a right. */
export function requireRight(caller: Caller, right: Right): void {
  if (!caller.rights.some((held) => INCLUDES[held].includes(right))) {
    throw new Failure(
      'forbidden',
      `This needs the right to ${right === 'admin' ? 'administer' : right}; the key “${caller.label}” does not have it.`,
    );
  }
}
