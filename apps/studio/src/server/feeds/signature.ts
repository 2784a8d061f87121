import { Webhook, WebhookVerificationError } from 'standardwebhooks';
import { randomBytes } from 'node:crypto';
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

/** The headers that sign a body. */
export function signed(secret: string, message: string, body: string, at: Date): Record<string, string> {
  return {
    'webhook-id': message,
    'webhook-timestamp': String(Math.floor(at.getTime() / 1_000)),
    'webhook-signature': new Webhook(secret).sign(message, at, body),
  };
}
