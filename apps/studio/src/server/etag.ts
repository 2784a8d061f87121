import { hash } from 'node:crypto';

/** What a text is told by (RFC 9110, section 8.8.3): another validator for every other text. */
export const etagOf = (text: string): string => `"${hash('sha256', text, 'base64url').slice(0, 22)}"`;
