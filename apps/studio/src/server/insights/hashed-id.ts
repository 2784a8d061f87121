import { createHmac } from 'node:crypto';

/** What stands for an id that a page made, such as a visit’s: it cannot be turned back without the key. */
export const hashedId = (secret: string, id: string): string =>
  createHmac('sha256', secret).update(id).digest('base64url').slice(0, 22);
