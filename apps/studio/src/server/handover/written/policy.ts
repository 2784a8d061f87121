import { createHash } from 'node:crypto';

/** A Content-Security-Policy: nothing but what is named (CSP level 3). Pictures of records may be anywhere. */
export const policyOf = (sources: Readonly<Record<`${string}-src`, string>>, pictures: string): string =>
  [
    "default-src 'none'",
    ...Object.entries(sources).map(([directive, from]) => `${directive} ${from}`),
    `img-src ${pictures} https: data:`,
    "base-uri 'none'",
    "form-action 'self'",
  ].join('; ');

/** How a policy knows the one style element of a page. */
export const styleHash = (styles: string): string => `'sha256-${createHash('sha256').update(styles).digest('base64')}'`;

/** That of a page which loads its scripts and answers from Yucca. */
export const elementPolicy = (server: string, styles: string): string =>
  policyOf({ 'script-src': server, 'connect-src': server, 'style-src': styleHash(styles) }, server);

/** That of a page which is built, and asks Yucca alone. */
export const builtPolicy = (server: string): string =>
  policyOf({ 'script-src': "'self'", 'style-src': "'self'", 'connect-src': server }, `'self' ${server}`);
