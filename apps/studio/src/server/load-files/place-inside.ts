import { realpath } from 'node:fs/promises';
import path from 'node:path';

/** What the system says of a file that is not there, may not be read, or has a name that none can have. */
const ABSENT = new Set(['ENOENT', 'ENOTDIR', 'EACCES', 'EPERM', 'ELOOP', 'ENAMETOOLONG', 'ERR_INVALID_ARG_VALUE']);

/** What is meant where there is no such file; other errors go on. */
export const nothingThere =
  <T>(otherwise: T) =>
  (error: unknown): T => {
    if (ABSENT.has((error as NodeJS.ErrnoException).code ?? '')) return otherwise;
    throw error;
  };

/**
 * The folder itself or a place in it; null for anything else. Links are followed first, so that none leads out of the
 * folder.
 */
export async function placeInside(folder: string, name: string): Promise<string | null> {
  try {
    const allowed = await realpath(folder);
    const place = await realpath(path.resolve(folder, name));
    return place === allowed || place.startsWith(allowed + path.sep) ? place : null;
  } catch (error) {
    return nothingThere(null)(error);
  }
}
