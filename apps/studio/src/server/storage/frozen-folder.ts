import { copyFileSync, existsSync, mkdtempSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** What a copy has in full: small, or opened for writing even when nothing is written. */
const COPIED = ['yucca.sqlite', 'yucca.sqlite-wal', 'secret.key'];
/** What is only read. */
const LINKED = ['segments', 'files', 'failed'];
const MARK = 'frozen';

/**
 * A folder to work over while the real one cannot be written: a copy of the database beside links to the indexes and
 * pictures. Whoever opens the database there may read and not write (see `isFrozen`), so nothing is acknowledged that a
 * restart would lose. Throws when there is no database to copy.
 */
export function frozenCopyOf(dataDir: string): string {
  const copy = mkdtempSync(path.join(tmpdir(), 'yucca-read-only-'));
  for (const name of COPIED)
    if (existsSync(path.join(dataDir, name))) copyFileSync(path.join(dataDir, name), path.join(copy, name));
  for (const name of LINKED)
    if (existsSync(path.join(dataDir, name))) symlinkSync(path.join(dataDir, name), path.join(copy, name));
  return copy;
}

/** From now on nothing is written into the database of this folder. */
export function freeze(copy: string): void {
  writeFileSync(path.join(copy, MARK), '');
}

export const isFrozen = (dataDir: string): boolean => existsSync(path.join(dataDir, MARK));
