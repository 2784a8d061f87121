import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { runtime } from '@/server/runtime';

const TYPES: Record<string, string> = {
  '.svg': 'image/svg+xml',
  '.png': 'image/png',
  '.jpg': 'image/jpeg',
  '.webp': 'image/webp',
  '.avif': 'image/avif',
};

/** Pictures from the folder `files` of the data folder, for collections whose records point to them. */
export async function GET(_: Request, { params }: { params: Promise<{ path: string[] }> }): Promise<Response> {
  const root = path.join(runtime().config.dataDir, 'files');
  const file = path.join(root, ...(await params).path);
  const type = TYPES[path.extname(file).toLowerCase()];
  const facts = file.startsWith(root + path.sep) && type ? await stat(file).catch(() => null) : null;
  if (!facts?.isFile()) return new Response('Not found', { status: 404 });
  return new Response(Readable.toWeb(createReadStream(file)) as ReadableStream, {
    headers: {
      'Content-Type': type!,
      'Content-Length': String(facts.size),
      'Cache-Control': 'public, max-age=86400',
      // A picture opened by itself must not run anything.
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'X-Content-Type-Options': 'nosniff',
    },
  });
}
