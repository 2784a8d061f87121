import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import path from 'node:path';
import { Reply } from '@/http/reply';
import { handler } from '@/http/route';
import { runtime } from '@/server/runtime';

const TYPES = new Map([
  ['.svg', 'image/svg+xml'],
  ['.png', 'image/png'],
  ['.jpg', 'image/jpeg'],
  ['.webp', 'image/webp'],
  ['.avif', 'image/avif'],
]);

/**
 * Pictures from the folder `files` of the data folder, for collections whose records point to them; with `?width=320`
 * in a smaller width, where one is made.
 */
export const GET = handler(async (request, { path: below = '' }) => {
  const root = path.join(runtime().config.dataDir, 'files');
  const file = path.join(root, below);
  const type = TYPES.get(path.extname(file).toLowerCase());
  const inside = file.startsWith(root + path.sep) && !below.includes('\0');
  const facts = inside && type !== undefined ? await stat(file).catch(notThere) : null;
  if (!facts?.isFile()) return new Reply('Not found', { status: 404, headers: { 'Content-Type': 'text/plain' } });
  const width = Number(request.query.get('width'));
  const smaller = width > 0 ? await runtime().smallerPictures.get(file, facts.mtimeMs, width) : null;
  return new Reply(request.method === 'HEAD' ? null : (smaller ?? createReadStream(file)), {
    headers: {
      'Content-Type': smaller === null ? type! : 'image/webp',
      'Content-Length': String(smaller?.length ?? facts.size),
      'Cache-Control': 'public, max-age=86400',
      // A picture opened by itself must not run anything.
      'Content-Security-Policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
      'X-Content-Type-Options': 'nosniff',
    },
  });
});

/** Without this the framework would answer HEAD by opening the file for nobody. */
export const HEAD = GET;

/** Nothing is there, or nothing that can have such a name. Any other trouble with the disk is told. */
function notThere(error: NodeJS.ErrnoException): null {
  if (['ENOENT', 'ENOTDIR', 'ENAMETOOLONG', 'EACCES', 'ELOOP'].includes(error.code ?? '')) return null;
  throw error;
}
