import { eq, lt } from 'drizzle-orm';
import { createHash, randomBytes, randomInt, scrypt as scryptWithCallback, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import type { Db } from '../db/open';
import { sessions, settings } from '../db/schema';
import type { Clock } from '../clock';
import { Failure } from '../failure';
import { Rates } from '../keys/rates';

/** The name of the cookie that keeps somebody signed in. */
export const SESSION_COOKIE = 'yucca-session';
const SESSION_DAYS = 14;
const PASSWORD = 'studio-password';
const LEAST_LETTERS = 10;
/**
 * Tries at signing in within a minute: from one address, and from all of them. The second is far above the first, so
 * that whoever guesses from somewhere else does not keep the owner out.
 */
const TRIES = 10;
const TRIES_OF_ALL = 300;

// Not the one that blocks: a guess takes some 50 ms of a core, and searches go on meanwhile.
const scrypt = promisify<string, string, number, Buffer>(scryptWithCallback);

const hash = (secret: string): string => createHash('sha256').update(secret).digest('hex');

function sameText(a: string, b: string): boolean {
  return timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest());
}

export interface SessionsParts {
  db: Db;
  password: string | null;
  clock: Pick<Clock, 'now'>;
}

/**
 * Who is signed in to the studio. On a server that only this machine reaches nobody needs to; on any other, the one
 * password from the environment opens it, or the one its owner sets at the first visit with a code from the log.
 */
export class Sessions {
  readonly #db: Db;
  readonly #fixed: string | null;
  readonly #tries = new Rates();
  readonly #clock: Pick<Clock, 'now'>;
  #code: string | null = null;

  constructor({ db, password, clock }: SessionsParts) {
    this.#db = db;
    this.#fixed = password;
    this.#clock = clock;
  }

  /** Whether a password is there; without one, the first visitor sets it with the code. */
  get hasPassword(): boolean {
    return this.#fixed !== null || this.#stored() !== null;
  }

  /**
   * Makes sure that there is a way to set the first password: prints the code that lets a visitor do it, once. It is
   * good for one use and until the next start.
   */
  offerCode(print: (text: string) => void): void {
    if (this.hasPassword || this.#code !== null) return;
    print(`\n  The studio has no password yet. Set it at /sign-in with the code ${this.makeCode()}\n\n`);
  }

  makeCode(): string {
    const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
    this.#code = Array.from(
      { length: 12 },
      (_, i) => (i === 4 || i === 8 ? '-' : '') + letters[randomInt(letters.length)],
    ).join('');
    return this.#code;
  }

  /** Sets the first password. Throws a Failure for a wrong code or a weak password. Returns the cookie's value. */
  async setPassword(code: string, password: string, from = 'unknown'): Promise<string> {
    this.#countTry(from);
    if (this.hasPassword) throw new Failure('conflict', 'A password is set already. Sign in with it.');
    if (this.#code === null || !sameText(code.trim().toUpperCase(), this.#code))
      throw new Failure('forbidden', 'That is not the code in the log of this start.');
    if ([...password].length < LEAST_LETTERS)
      throw new Failure('invalid', `A password needs ${LEAST_LETTERS} characters or more.`);
    const salt = randomBytes(16).toString('hex');
    // Spent before the slow part, so that two requests at once cannot both use it.
    this.#code = null;
    const value = `${salt}:${(await scrypt(password, salt, 32)).toString('hex')}`;
    this.#db.insert(settings).values({ name: PASSWORD, value }).run();
    return this.#begin();
  }

  /** Signs in. Throws a Failure for a wrong password, or for too many tries. Returns the cookie's value. */
  async signIn(password: string, from = 'unknown'): Promise<string> {
    this.#countTry(from);
    if (!(await this.#isPassword(password))) throw new Failure('forbidden', 'That is not the password.');
    return this.#begin();
  }

  #countTry(from: string): void {
    try {
      this.#tries.take(`from ${from}`, TRIES);
      this.#tries.take('all', TRIES_OF_ALL);
    } catch (error) {
      if (error instanceof Failure) throw new Failure('too-many', 'Too many tries. Wait a minute.');
      throw error;
    }
  }

  #stored(): string | null {
    return this.#db.select().from(settings).where(eq(settings.name, PASSWORD)).get()?.value ?? null;
  }

  async #isPassword(password: string): Promise<boolean> {
    if (this.#fixed !== null) return sameText(password, this.#fixed);
    const [salt, wanted] = this.#stored()?.split(':') ?? [];
    if (salt === undefined || wanted === undefined) return false;
    return sameText((await scrypt(password, salt, 32)).toString('hex'), wanted);
  }

  #begin(): string {
    const secret = randomBytes(32).toString('base64url');
    this.#db.delete(sessions).where(lt(sessions.expiresAt, this.#today())).run();
    const expiresAt = new Date(this.#clock.now() + SESSION_DAYS * 86_400_000).toISOString();
    this.#db
      .insert(sessions)
      .values({ hash: hash(secret), expiresAt })
      .run();
    return secret;
  }

  #today(): string {
    return new Date(this.#clock.now()).toISOString();
  }

  isSignedIn(secret: string | undefined): boolean {
    if (!secret) return false;
    const row = this.#db
      .select()
      .from(sessions)
      .where(eq(sessions.hash, hash(secret)))
      .get();
    return row !== undefined && row.expiresAt > this.#today();
  }

  signOut(secret: string | undefined): void {
    if (secret)
      this.#db
        .delete(sessions)
        .where(eq(sessions.hash, hash(secret)))
        .run();
  }
}

/** The session cookie as it is set; without a value it is taken away. */
export function sessionCookie(value: string | null, secure: boolean): string {
  const age = value === null ? 0 : SESSION_DAYS * 86_400;
  return `${SESSION_COOKIE}=${value ?? ''}; Path=/; Max-Age=${age}; HttpOnly; SameSite=Lax${secure ? '; Secure' : ''}`;
}
