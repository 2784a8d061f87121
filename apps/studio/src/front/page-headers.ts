import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';

/**
 * What goes with a page. Scripts run that are files of this server or carry the page's nonce, which the framework finds
 * in the policy of the request and writes into its own; so the policy goes both ways. Attributes `style` are what lists
 * and charts place their parts with; they can run nothing. Pictures of records may be anywhere.
 */
export function setPageHeaders(request: IncomingMessage, response: ServerResponse, hosted: boolean): void {
  const nonce = randomBytes(16).toString('base64');
  const policy = [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'`,
    `style-src 'self' 'nonce-${nonce}'`,
    "style-src-attr 'unsafe-inline'",
    'img-src * data: blob:',
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    // The studio shows search pages in frames of its own; nobody frames the studio.
    `frame-ancestors ${hosted ? "'self'" : "'none'"}`,
  ].join('; ');
  request.headers['content-security-policy'] = policy;
  delete request.headers['content-security-policy-report-only'];
  response.setHeader('Content-Security-Policy', policy);
  response.setHeader('X-Content-Type-Options', 'nosniff');
  response.setHeader('Referrer-Policy', hosted ? 'strict-origin-when-cross-origin' : 'same-origin');
  // Where visitors are, and what they say, is asked for on search pages alone.
  const own = hosted ? 'self' : '';
  response.setHeader('Permissions-Policy', `geolocation=(${own}), camera=(), microphone=(${own}), payment=(), usb=()`);
  response.setHeader('Cross-Origin-Opener-Policy', 'same-origin');
}
