import type { TokenClaims } from '@yucca/contract';
import { createHash } from 'node:crypto';
import jwt from 'jsonwebtoken';
import { Failure, isFailure } from '../failure';
import { validate } from '../validate';

/** Whether a secret looks like a scoped token: three parts, the first of them a JSON object in base64url. */
export const isToken = (secret: string): boolean => /^eyJ[\w-]*\.[\w-]+\.[\w-]*$/.test(secret);

/** The id of the key that a token says it was signed with; null when it says none. */
export function keyIdOf(token: string): string | null {
  const kid: unknown = jwt.decode(token, { complete: true })?.header.kid;
  return typeof kid === 'string' && kid !== '' ? kid : null;
}

/** Checks a token's signature, times (at `now`, milliseconds since 1970) and claims. Throws a Failure. */
export function readToken(token: string, signingKey: Buffer, now: number): TokenClaims {
  try {
    const claims: unknown = jwt.verify(token, signingKey, {
      algorithms: ['HS256'],
      clockTimestamp: Math.floor(now / 1000),
    });
    return validate('TokenClaims', claims);
  } catch (error) {
    if (isFailure(error)) throw new Failure('unauthorised', `The token's claims: ${error.message}`, error.parts);
    throw new Failure('unauthorised', `The token is not valid: ${(error as Error).message}.`);
  }
}

/** Secrets are longer than this many bytes. */
const HMAC_BLOCK = 64;

/**
 * What verifies the signatures made with a secret. HMAC replaces a key longer than a block of its hash function (64
 * bytes for SHA-256) by that key's hash (RFC 2104, section 2), so of a long secret its stored SHA-256 is enough.
 */
export function signingKeyOf(secret: string): Buffer {
  const bytes = Buffer.from(secret);
  return bytes.length <= HMAC_BLOCK ? bytes : createHash('sha256').update(bytes).digest();
}
