import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';

/** An index is there, and the database it was made from is not. */
export class DatabaseMissing extends Error {
  override name = 'DatabaseMissing';
}

/**
 * Refuses a data folder that has lost its database: started over it, a new and empty one would look as if all was well,
 * and the index, which cannot be read without it, would be cleared away. Throws a DatabaseMissing.
 */
export function requireDatabase(dataDir: string): void {
  if (existsSync(path.join(dataDir, 'yucca.sqlite')) || !hasFiles(path.join(dataDir, 'segments'))) return;
  throw new DatabaseMissing(
    `The data folder ${dataDir} has an index and no database (yucca.sqlite). Restore a backup, or name an empty folder.`,
  );
}

const hasFiles = (folder: string): boolean =>
  existsSync(folder) && readdirSync(folder, { recursive: true, withFileTypes: true }).some((entry) => entry.isFile());
