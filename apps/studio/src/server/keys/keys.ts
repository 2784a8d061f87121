import type { Key, NewKey, Right, TokenClaims } from '@yucca/contract';
import { parseFilter } from '@yucca/engine';
import { asc, eq, isNull } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { hash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import type { Db } from '../db/open';
import { keys, settings } from '../db/schema';
import { Failure } from '../failure';
import type { Clock } from '../clock';
import { narrowed, unlimited, type Caller } from './caller';
import type { KeySealer } from './key-sealer';
import { isToken, keyIdOf, readToken, signingKeyOf } from './tokens';

type Row = typeof keys.$inferSelect;

const sha256 = (data: string | Buffer): Buffer => hash('sha256', data, 'buffer');
/**
 * What a key is found by. Not the plain hash of its secret, which verifies and therefore signs tokens (see tokens.ts):
 * the hash of that hash, from which there is no way back.
 */
const lookupOf = (plainHash: Buffer): string =>
  sha256(Buffer.concat([Buffer.from('yucca lookup\0'), plainHash])).toString('hex');

/** The setting that holds the secret the hosted pages show; it can do nothing but search, so it may be seen. */
const PAGE_KEY = 'page-key';
/** The id of the key that the environment gives. */
const FIXED_ADMIN = 'admin';
/** More than a block of SHA-256's HMAC, so that the stored hash can verify scoped tokens (see tokens.ts). */
const SECRET_BYTES = 48;

export interface KeysParts {
  db: Db;
  /** A fixed admin key from the environment. */
  adminKey: string | null;
  sealer: KeySealer;
  clock: Clock;
}

/** Keys: who may do what. The database has only hashes of secrets. */
export class Keys {
  readonly #db: Db;
  readonly #sealer: KeySealer;
  readonly #clock: Clock;
  readonly #fixed: { hash: Buffer; signingKey: Buffer } | null;
  readonly #known = new Map<string, Caller>();
  readonly #hashes = new LRUCache<string, Buffer>({ max: 200 });
  readonly #tokens = new LRUCache<string, { keyId: string; caller: Caller }>({ max: 1000 });
  /** Last uses since they were written down last. */
  #uses = new Map<string, number>();
  #pageKey: string | null = null;

  constructor({ db, adminKey, sealer, clock }: KeysParts) {
    this.#db = db;
    this.#sealer = sealer;
    this.#clock = clock;
    this.#fixed = adminKey === null ? null : { hash: sha256(adminKey), signingKey: signingKeyOf(adminKey) };
  }

  /**
   * Seals the hashes of keys from before: what they verify tokens with goes under the folder's secret, and in its place
   * comes the hash of the hash. Free pages are overwritten, so that the old ones cannot be read out of the file.
   */
  #sealOld(): void {
    const old = this.#db.select().from(keys).where(isNull(keys.sealed)).all();
    if (old.length === 0) return;
    this.#db.$client.pragma('secure_delete = ON');
    this.#db.$client
      .transaction(() => {
        for (const { id, secretHash } of old) {
          const plainHash = Buffer.from(secretHash, 'hex');
          const values = { secretHash: lookupOf(plainHash), sealed: this.#sealer.seal(plainHash) };
          this.#db.update(keys).set(values).where(eq(keys.id, id)).run();
        }
      })
      .immediate();
    this.#db.$client.pragma('wal_checkpoint(TRUNCATE)');
  }

  /** Makes the keys a new data folder needs. Returns the admin key when one was made: it is shown this once. */
  prepare(): string | null {
    this.#sealOld();
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
    checkNewKey(wanted, this.#clock.now());
    const secret = `yk_${randomBytes(SECRET_BYTES).toString('base64url')}`;
    const list = (values: readonly string[] | undefined): string | null => (values ? JSON.stringify(values) : null);
    const plainHash = sha256(secret);
    const row = this.#db
      .insert(keys)
      .values({
        id: randomUUID(),
        label: wanted.label,
        secretHash: lookupOf(plainHash),
        sealed: this.#sealer.seal(plainHash),
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

  /** Throws a Failure when there is no key with this id. */
  get(id: string): Key {
    return this.#present(this.#row(id));
  }

  #row(id: string): Row {
    const row = this.#db.select().from(keys).where(eq(keys.id, id)).get();
    if (!row) throw new Failure('not-found', `There is no key ${id}.`);
    return row;
  }

  list(): Key[] {
    const rows = this.#db.select().from(keys).orderBy(asc(keys.createdAt)).all();
    return rows.map((row) => this.#present(row));
  }

  /** Makes a key worthless from now on. The key of the search pages stays: they would stop working. */
  remove(id: string): void {
    if (this.#isForPages(this.#row(id))) throw new Failure('conflict', 'The search pages use this key.');
    this.#db.delete(keys).where(eq(keys.id, id)).run();
    for (const [at, { keyId }] of this.#known) if (keyId === id) this.#known.delete(at);
    for (const [token, { keyId }] of this.#tokens.entries()) if (keyId === id) this.#tokens.delete(token);
  }

  /** The search key that the hosted pages carry. */
  pageKey(): string {
    return (this.#pageKey ??= this.#setting(PAGE_KEY)) ?? '';
  }

  #setting(name: string): string | null {
    return this.#db.select().from(settings).where(eq(settings.name, name)).get()?.value ?? null;
  }

  #isForPages(row: Row): boolean {
    return row.secretHash === lookupOf(sha256(this.pageKey()));
  }

  #present(row: Row): Key {
    const { id, label, perMinute, expiresAt, filter, createdAt } = row;
    const used = this.#uses.get(id);
    const lastUsedAt = used === undefined ? row.lastUsedAt : new Date(used).toISOString();
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
    if (caller.expiresAt !== null && caller.expiresAt <= this.#clock.now())
      throw new Failure('unauthorised', `The key “${caller.label}” has expired.`);
    if (caller.keyId !== null) this.#uses.set(caller.keyId, Date.now());
    return caller;
  }

  /** The hash of a secret. Those that come with request after request are hashed once, and stay in memory for that. */
  #hashOf(secret: string): Buffer {
    let plainHash = this.#hashes.get(secret);
    if (plainHash === undefined) this.#hashes.set(secret, (plainHash = sha256(secret)));
    return plainHash;
  }

  #byKey(secret: string): Caller {
    const plainHash = this.#hashOf(secret);
    if (this.#fixed !== null && timingSafeEqual(plainHash, this.#fixed.hash))
      return unlimited('admin', FIXED_ADMIN, ['admin']);
    // By the plain hash, which stays in memory: the other one is needed for the database alone.
    const at = plainHash.toString('hex');
    const known = this.#known.get(at);
    if (known) return known;
    const row = this.#db
      .select()
      .from(keys)
      .where(eq(keys.secretHash, lookupOf(plainHash)))
      .get();
    if (!row) throw new Failure('unauthorised', 'This key is not known. Check that it was copied whole.');
    const caller = callerOf(row);
    this.#known.set(at, caller);
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
    const claims = readToken(token, signer.signingKey, this.#clock.now());
    const caller = narrowed(signer.caller, limitsOf(claims, `${keyId}/${sha256(token).toString('base64url')}`));
    this.#tokens.set(token, { keyId, caller });
    return caller;
  }

  #signer(keyId: string): { caller: Caller; signingKey: Buffer } | null {
    if (keyId === FIXED_ADMIN && this.#fixed !== null)
      return { caller: unlimited('admin', FIXED_ADMIN, ['admin']), signingKey: this.#fixed.signingKey };
    const row = this.#db.select().from(keys).where(eq(keys.id, keyId)).get();
    const signingKey = row?.sealed ? this.#sealer.open(row.sealed) : null;
    return row && signingKey !== null ? { caller: callerOf(row), signingKey } : null;
  }

  /** The keys used since this was asked last, and when; they are written down in the background. */
  takeUses(): { id: string; at: string }[] {
    const uses = [...this.#uses].map(([id, at]) => ({ id, at: new Date(at).toISOString() }));
    this.#uses = new Map();
    return uses;
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
    rates: row.perMinute === null ? [] : [{ id: row.id, perMinute: row.perMinute }],
    filter: row.filter,
    expiresAt: row.expiresAt === null ? null : Date.parse(row.expiresAt),
  };
}

function limitsOf(
  { rights, collections, origins, perMinute, filter, exp }: TokenClaims,
  rateId: string,
): Parameters<typeof narrowed>[1] {
  if (filter !== undefined) checkFilter(filter);
  return {
    ...(rights && { rights }),
    ...(collections && { collections }),
    ...(origins && { origins }),
    ...(perMinute !== undefined && { rate: { id: rateId, perMinute } }),
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

function checkNewKey({ rights, filter, expiresAt }: NewKey, now: number): void {
  const refuse = (pointer: string, detail: string): never => {
    throw new Failure('invalid', `${pointer.slice(1)} ${detail}.`, [{ pointer, detail }]);
  };
  if (filter !== undefined) {
    checkFilter(filter);
    if (rights.includes('write') || rights.includes('admin'))
      refuse('/filter', 'goes with the rights search and read alone: who writes could change what the filter looks at');
  }
  if (expiresAt !== undefined && Date.parse(expiresAt) <= now) refuse('/expiresAt', 'must lie ahead');
}
