import { Reply } from '@/http/reply';
import { handler } from '@/http/route';
import { runtime } from '@/server/runtime';

/** The logo of a hosted page. It is called by what it holds, so that it never changes. */
export const GET = handler(async (request, { slug = '', file = '' }) => {
  const found = runtime().interfaces.logo(slug, file);
  if (found === null) return new Reply('Not found', { status: 404, headers: { 'Content-Type': 'text/plain' } });
  return new Reply(request.method === 'HEAD' ? null : found.bytes, {
    headers: {
      'Content-Type': found.type,
      'Content-Length': String(found.bytes.length),
      'Cache-Control': 'public, max-age=31536000, immutable',
      // A drawing that is opened by itself must not run anything.
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'X-Content-Type-Options': 'nosniff',
      'Access-Control-Allow-Origin': '*',
    },
  });
});

export const HEAD = GET;
