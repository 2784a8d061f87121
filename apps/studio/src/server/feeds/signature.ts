import { Webhook, WebhookVerificationError } from 'standardwebhooks';
import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { Failure } from '../failure';

/** The headers of a signed message (Standard Webhooks). */
const NAMES = ['webhook-id', 'webhook-timestamp', 'webhook-signature'] as const;

export const newFeedSecret = (): string => `whsec_${randomBytes(32).toString('base64')}`;

/**
 * The id of a message that one of some secrets signed less than five minutes ago. Throws a Failure that says what is
 * wrong, and nothing of the secrets.
 */
export function verifiedMessage(
  headers: { get: (name: string) => string | null },
  body: string,
  secrets: readonly string[],
): string {
  const given: Record<string, string> = {};
  for (const name of NAMES) {
    const value = headers.get(name);
    if (value === null || value === '' || value.length > 1_000)
      throw new Failure('unauthorised', `The header ${name} is missing or too long.`);
    given[name] = value;
  }
  let wrong = 'No matching signature found';
  for (const secret of secrets) {
    try {
      new Webhook(secret).verify(body, given, { jsonParse: false });
      return given['webhook-id']!;
    } catch (error) {
      if (!(error instanceof WebhookVerificationError)) throw error;
      wrong = error.message;
    }
  }
  throw new Failure('unauthorised', `The signature does not hold: ${wrong.toLowerCase()}.`);
}

/**
 * Whether a request brings one of the secrets as a bearer token, as systems do that cannot sign. Compared by their
 * hashes, so that the time it takes tells nothing.
 */
export function bringsSecret(headers: { get: (name: string) => string | null }, secrets: readonly string[]): boolean {
  const token = /^Bearer ([^\s]{1,200})$/.exec(headers.get('authorization') ?? '')?.[1];
  if (token === undefined) return false;
  const hash = (text: string): Buffer => createHash('sha256').update(text).digest();
  return secrets.filter((secret) => timingSafeEqual(hash(secret), hash(token))).length > 0;
}

/** The headers that sign a body. */
export function signed(secret: string, message: string, body: string, at: Date): Record<string, string> {
  return {
    'webhook-id': message,
    'webhook-timestamp': String(Math.floor(at.getTime() / 1_000)),
    'webhook-signature': new Webhook(secret).sign(message, at, body),
  };
}
