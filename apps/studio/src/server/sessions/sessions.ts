import { eq, lt } from 'drizzle-orm';
import { createHash, randomBytes, randomInt, scryptSync, timingSafeEqual } from 'node:crypto';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Db } from '../db/open';
import { sessions, settings } from '../db/schema';
import { Failure } from '../failure';

/** The name of the cookie that keeps somebody signed in. */
export const SESSION_COOKIE = 'yucca-session';
const SESSION_DAYS = 14;
const PASSWORD = 'studio-password';
const LEAST_LETTERS = 10;
/** Tries at signing in, from anywhere, within a minute. */
const TRIES = 10;

const hash = (secret: string): string => createHash('sha256').update(secret).digest('hex');

function sameText(a: string, b: string): boolean {
  return timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest());
}

/**
 * Who is signed in to the studio. On a server that only this machine reaches nobody needs to; on any other, the one
 * password from the environment opens it, or the one its owner sets at the first visit with a code from the log.
 */
export class Sessions {
  readonly #db: Db;
  readonly #fixed: string | null;
  readonly #tries = new RateLimiterMemory({ points: TRIES, duration: 60 });
  #code: string | null = null;

  constructor(db: Db, password: string | null) {
    this.#db = db;
    this.#fixed = password;
  }

  /** Whether a password is there; without one, the first visitor sets it with the code. */
  get hasPassword(): boolean {
    return this.#fixed !== null || this.#stored() !== null;
  }

  /** The code that lets the first visitor set the password. Good for one use and until the next start. */
  makeCode(): string {
    const letters = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
    this.#code = Array.from(
      { length: 12 },
      (_, i) => (i === 4 || i === 8 ? '-' : '') + letters[randomInt(letters.length)],
    ).join('');
    return this.#code;
  }

  /** Sets the first password. Throws a Failure for a wrong code or a weak password. Answers the cookie's value. */
  async setPassword(code: string, password: string): Promise<string> {
    await this.#countTry();
    if (this.hasPassword) throw new Failure('conflict', 'A password is set already. Sign in with it.');
    if (this.#code === null || !sameText(code.trim().toUpperCase(), this.#code))
      throw new Failure('forbidden', 'That is not the code in the log of this start.');
    if ([...password].length < LEAST_LETTERS)
      throw new Failure('invalid', `A password needs ${LEAST_LETTERS} characters or more.`);
    const salt = randomBytes(16).toString('hex');
    const value = `${salt}:${scryptSync(password, salt, 32).toString('hex')}`;
    this.#db.insert(settings).values({ name: PASSWORD, value }).run();
    this.#code = null;
    return this.#begin();
  }

  /** Signs in. Throws a Failure for a wrong password, or for too many tries. Answers the cookie's value. */
  async signIn(password: string): Promise<string> {
    await this.#countTry();
    if (!this.#isPassword(password)) throw new Failure('forbidden', 'That is not the password.');
    return this.#begin();
  }

  async #countTry(): Promise<void> {
    await this.#tries.consume('all').catch(() => {
      throw new Failure('too-many', 'Too many tries. Wait a minute.');
    });
  }

  #stored(): string | null {
    return this.#db.select().from(settings).where(eq(settings.name, PASSWORD)).get()?.value ?? null;
  }

  #isPassword(password: string): boolean {
    if (this.#fixed !== null) return sameText(password, this.#fixed);
    const [salt, wanted] = this.#stored()?.split(':') ?? [];
    return (
      salt !== undefined && wanted !== undefined && sameText(scryptSync(password, salt, 32).toString('hex'), wanted)
    );
  }

  #begin(): string {
    const secret = randomBytes(32).toString('base64url');
    this.#db.delete(sessions).where(lt(sessions.expiresAt, new Date().toISOString())).run();
    const expiresAt = new Date(Date.now() + SESSION_DAYS * 86_400_000).toISOString();
    this.#db
      .insert(sessions)
      .values({ hash: hash(secret), expiresAt })
      .run();
    return secret;
  }

  isSignedIn(secret: string | undefined): boolean {
    if (!secret) return false;
    const row = this.#db
      .select()
      .from(sessions)
      .where(eq(sessions.hash, hash(secret)))
      .get();
    return row !== undefined && row.expiresAt > new Date().toISOString();
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
