import { runtime } from '@/server/runtime';

interface Context {
  params: Promise<{ slug: string; file: string }>;
}

/** The logo of a hosted page. It is called by what it holds, so that it never changes. */
export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { slug, file } = await params;
  const found = runtime().interfaces.logo(slug, file);
  if (found === null) return new Response('There is no such logo.', { status: 404 });
  return new Response(new Uint8Array(found.bytes), {
    headers: {
      'Content-Type': found.type,
      'Cache-Control': 'public, max-age=31536000, immutable',
      // A drawing that is opened by itself runs nothing, even if it could.
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'X-Content-Type-Options': 'nosniff',
      'Access-Control-Allow-Origin': '*',
    },
  });
}
