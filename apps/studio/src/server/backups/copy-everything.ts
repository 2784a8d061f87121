import { BACKUP_FACTS, DATABASE_FILE, type BackupFacts } from '@yucca/contract';
import Database from 'better-sqlite3';
import { createHash } from 'node:crypto';
import { createReadStream, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { cp, mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { beat } from '../workers/rpc';

export interface BackupOrder {
  dataDir: string;
  /** Where backups lie, and the name of this one. */
  backupDir: string;
  name: string;
  version: string;
}

/** Besides the database: what verifies tokens, and pictures. Indexes are made anew from the records. */
const BESIDES = ['secret.key', 'files'];
/** Pages of the database copied at once; a writer waits no longer than that takes. */
const PAGES = 500;

/**
 * Copies everything there is into a folder of its own: the database by SQLite's online backup, which sees one moment of
 * it, and what lies beside it. The folder has another name until all of it is there and checked.
 */
export async function copyEverything(order: BackupOrder, onShare: (share: number) => void): Promise<BackupFacts> {
  const { dataDir, backupDir, name, version } = order;
  const whole = path.join(backupDir, name);
  const half = `${whole}.part`;
  await mkdir(half, { recursive: true, mode: 0o700 });
  try {
    await copyDatabase(path.join(dataDir, DATABASE_FILE), path.join(half, DATABASE_FILE), onShare);
    for (const one of BESIDES)
      if (existsSync(path.join(dataDir, one)))
        await cp(path.join(dataDir, one), path.join(half, one), { recursive: true });
    const facts: BackupFacts = {
      backup: 1,
      version,
      at: new Date().toISOString(),
      collections: checkedCollections(path.join(half, DATABASE_FILE)),
      files: await factsOfFiles(half),
    };
    writeFileSync(path.join(half, BACKUP_FACTS), `${JSON.stringify(facts, null, 2)}\n`);
    await flush(half);
    await rename(half, whole);
    return facts;
  } catch (error) {
    await rm(half, { recursive: true, force: true });
    throw error;
  }
}

async function copyDatabase(from: string, to: string, onShare: (share: number) => void): Promise<void> {
  const client = new Database(from, { readonly: true });
  try {
    await client.backup(to, {
      progress: ({ totalPages, remainingPages }) => {
        beat();
        onShare(totalPages === 0 ? 1 : 1 - remainingPages / totalPages);
        return PAGES;
      },
    });
  } finally {
    client.close();
  }
}

/** Throws when the copy is not whole. Leaves it without a write-ahead log beside it. */
function checkedCollections(file: string): BackupFacts['collections'] {
  const client = new Database(file);
  try {
    client.pragma('journal_mode = DELETE');
    const said = client.pragma('integrity_check(1)', { simple: true });
    if (said !== 'ok') throw new Error(`The copy of the database is damaged: ${String(said)}`);
    return client
      .prepare(
        'select name, (select count(*) from records r where r.collection_id = c.id) as records from collections c where name is not null order by name',
      )
      .all() as BackupFacts['collections'];
  } finally {
    client.close();
  }
}

async function factsOfFiles(folder: string): Promise<BackupFacts['files']> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true });
  const facts: BackupFacts['files'] = [];
  for (const entry of entries.filter((one) => one.isFile())) {
    const file = path.join(entry.parentPath, entry.name);
    beat();
    facts.push({
      path: path.relative(folder, file).split(path.sep).join('/'),
      bytes: (await stat(file)).size,
      sha256: await sha256Of(file),
    });
  }
  return facts.sort((a, b) => (a.path < b.path ? -1 : 1));
}

async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

/** Has the system write out what it holds of a folder's files, so that the new name stands for whole files. */
async function flush(folder: string): Promise<void> {
  for (const name of [DATABASE_FILE, BACKUP_FACTS]) {
    const handle = await open(path.join(folder, name), 'r+');
    await handle.sync().finally(() => handle.close());
  }
}

/** What a backup says of itself; null when the folder is none. */
export function factsOf(folder: string): BackupFacts | null {
  const file = path.join(folder, BACKUP_FACTS);
  if (!existsSync(file)) return null;
  const facts = JSON.parse(readFileSync(file, 'utf8')) as BackupFacts;
  return facts.backup === 1 ? facts : null;
}
