import type { Key, NewKey, Right, TokenClaims } from '@yucca/contract';
import { parseFilter } from '@yucca/engine';
import { asc, eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import type { Db } from '../db/open';
import { keys, settings } from '../db/schema';
import { Failure } from '../failure';
import { narrowed, unlimited, type Caller } from './caller';
import { isToken, keyIdOf, readToken, signingKeyOf } from './tokens';

type Row = typeof keys.$inferSelect;

const hash = (secret: string): string => createHash('sha256').update(secret).digest('hex');

/** The setting that holds the secret the hosted pages show; it can do nothing but search, so it may be seen. */
const PAGE_KEY = 'page-key';
/** The id of the key that the environment gives. */
const FIXED_ADMIN = 'admin';
/** The last use of a key is written down no more often than this. */
const USE_WRITTEN_EVERY_MS = 60_000;
/** More than a block of SHA-256's HMAC, so that the stored hash can verify scoped tokens (see tokens.ts). */
const SECRET_BYTES = 48;

/** Keys: who may do what. Only hashes of secrets are kept. */
export class Keys {
  readonly #db: Db;
  readonly #fixed: { hash: string; signingKey: Buffer } | null;
  readonly #known = new Map<string, Caller>();
  readonly #tokens = new LRUCache<string, { keyId: string; caller: Caller }>({ max: 1000 });
  readonly #usedAt = new Map<string, number>();

  constructor(db: Db, adminKey: string | null) {
    this.#db = db;
    this.#fixed = adminKey === null ? null : { hash: hash(adminKey), signingKey: signingKeyOf(adminKey) };
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
    return this.#fixed !== null || hasAdmin
      ? null
      : this.create({ label: 'First admin key', rights: ['admin'] }).secret;
  }

  /** Makes a key. The secret is in the answer and nowhere else: only its hash is kept. */
  create(wanted: NewKey): { key: Key; secret: string } {
    checkNewKey(wanted);
    const secret = `yk_${randomBytes(SECRET_BYTES).toString('base64url')}`;
    const list = (values: readonly string[] | undefined): string | null => (values ? JSON.stringify(values) : null);
    const row = this.#db
      .insert(keys)
      .values({
        id: randomUUID(),
        label: wanted.label,
        secretHash: hash(secret),
        rights: JSON.stringify(wanted.rights),
        collections: list(wanted.collections),
        origins: list(wanted.origins),
        perMinute: wanted.perMinute ?? null,
        expiresAt: wanted.expiresAt === undefined ? null : new Date(wanted.expiresAt).toISOString(),
        filter: wanted.filter ?? null,
      })
      .returning()
      .get();
    return { key: this.#present(row), secret };
  }

  list(): Key[] {
    const rows = this.#db.select().from(keys).orderBy(asc(keys.createdAt)).all();
    return rows.map((row) => this.#present(row));
  }

  /** Makes a key worthless from now on. The key of the search pages stays: they would stop working. */
  remove(id: string): void {
    const row = this.#db.select().from(keys).where(eq(keys.id, id)).get();
    if (!row) throw new Failure('not-found', `There is no key ${id}.`);
    if (this.#isForPages(row)) throw new Failure('conflict', 'The search pages use this key.');
    this.#db.delete(keys).where(eq(keys.id, id)).run();
    this.#known.delete(row.secretHash);
    for (const [token, { keyId }] of this.#tokens.entries()) if (keyId === id) this.#tokens.delete(token);
  }

  /** The search key that the hosted pages carry. */
  pageKey(): string {
    return this.#setting(PAGE_KEY) ?? '';
  }

  #setting(name: string): string | null {
    return this.#db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? null;
  }

  #isForPages(row: Row): boolean {
    return row.secretHash === hash(this.pageKey());
  }

  #present(row: Row): Key {
    const { id, label, perMinute, expiresAt, filter, createdAt, lastUsedAt } = row;
    const { rights, collections, origins } = callerOf(row);
    return {
      id,
      label,
      rights: [...rights],
      collections: collections && [...collections],
      origins: origins && [...origins],
      perMinute,
      expiresAt,
      filter,
      createdAt,
      lastUsedAt,
      forPages: this.#isForPages(row),
    };
  }

  /** Who holds this secret or scoped token. Throws a Failure when nobody does, or no longer. */
  bySecret(secret: string): Caller {
    const caller = isToken(secret) ? this.#byToken(secret) : this.#byKey(secret);
    if (caller.expiresAt !== null && caller.expiresAt <= Date.now())
      throw new Failure('unauthorised', `The key “${caller.label}” has expired.`);
    if (caller.keyId !== null) this.#noteUse(caller.keyId);
    return caller;
  }

  #byKey(secret: string): Caller {
    const secretHash = hash(secret);
    if (this.#fixed !== null && timingSafeEqual(Buffer.from(secretHash), Buffer.from(this.#fixed.hash)))
      return unlimited('admin', FIXED_ADMIN, ['admin']);
    const known = this.#known.get(secretHash);
    if (known) return known;
    const row = this.#db.select().from(keys).where(eq(keys.secretHash, secretHash)).get();
    if (!row) throw new Failure('unauthorised', 'This key is not known. Check that it was copied whole.');
    const caller = callerOf(row);
    this.#known.set(secretHash, caller);
    return caller;
  }

  #byToken(token: string): Caller {
    const known = this.#tokens.get(token);
    if (known) return known.caller;
    const keyId = keyIdOf(token);
    const signer = keyId === null ? null : this.#signer(keyId);
    if (keyId === null || signer === null)
      throw new Failure(
        'unauthorised',
        'The token’s header names no key that is known: set its “kid” to the key’s id.',
      );
    const caller = narrowed(signer.caller, limitsOf(readToken(token, signer.signingKey)));
    this.#tokens.set(token, { keyId, caller });
    return caller;
  }

  #signer(keyId: string): { caller: Caller; signingKey: Buffer } | null {
    if (keyId === FIXED_ADMIN && this.#fixed !== null)
      return { caller: unlimited('admin', FIXED_ADMIN, ['admin']), signingKey: this.#fixed.signingKey };
    const row = this.#db.select().from(keys).where(eq(keys.id, keyId)).get();
    return row ? { caller: callerOf(row), signingKey: Buffer.from(row.secretHash, 'hex') } : null;
  }

  #noteUse(id: string): void {
    const now = Date.now();
    if (now - (this.#usedAt.get(id) ?? 0) < USE_WRITTEN_EVERY_MS) return;
    this.#usedAt.set(id, now);
    this.#db
      .update(keys)
      .set({ lastUsedAt: new Date(now).toISOString() })
      .where(eq(keys.id, id))
      .run();
  }
}

function callerOf(row: Row): Caller {
  const list = (json: string | null): string[] | null => (json === null ? null : (JSON.parse(json) as string[]));
  return {
    label: row.label,
    keyId: row.id,
    rights: JSON.parse(row.rights) as Right[],
    collections: list(row.collections),
    origins: list(row.origins),
    perMinute: row.perMinute,
    filter: row.filter,
    expiresAt: row.expiresAt === null ? null : Date.parse(row.expiresAt),
  };
}

function limitsOf({
  rights,
  collections,
  origins,
  perMinute,
  filter,
  exp,
}: TokenClaims): Parameters<typeof narrowed>[1] {
  if (filter !== undefined) checkFilter(filter);
  return {
    ...(rights && { rights }),
    ...(collections && { collections }),
    ...(origins && { origins }),
    ...(perMinute !== undefined && { perMinute }),
    ...(filter !== undefined && { filter }),
    ...(exp !== undefined && { expiresAt: exp * 1000 }),
  };
}

/** Throws a Failure when a condition cannot be read. */
export function checkFilter(filter: string): void {
  try {
    parseFilter(filter);
  } catch (error) {
    const detail = (error as Error).message;
    throw new Failure('invalid', `filter: ${detail}`, [{ pointer: '/filter', detail }]);
  }
}

function checkNewKey({ rights, filter, expiresAt }: NewKey): void {
  const refuse = (pointer: string, detail: string): never => {
    throw new Failure('invalid', `${pointer.slice(1)} ${detail}.`, [{ pointer, detail }]);
  };
  if (filter !== undefined) {
    checkFilter(filter);
    if (rights.includes('write') || rights.includes('admin'))
      refuse('/filter', 'goes with the rights search and read alone: who writes could change what the filter looks at');
  }
  if (expiresAt !== undefined && Date.parse(expiresAt) <= Date.now()) refuse('/expiresAt', 'must lie ahead');
}
