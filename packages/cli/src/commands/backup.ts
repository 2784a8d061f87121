import { BACKUP_FACTS, DATABASE_FILE, type BackupFacts, type Task } from '@yucca/contract';
import Database from 'better-sqlite3';
import { createHash } from 'node:crypto';
import { createReadStream, existsSync, readdirSync, readFileSync } from 'node:fs';
import { cp, mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { Refused, requestJson, type Access } from '../server.ts';

const say = (text: string): void => void process.stdout.write(`${text}\n`);

/** Has the server make a backup, and waits for it. */
export async function backup(access: Access): Promise<number> {
  const { task } = await requestJson<{ task: Task }>(access, '/backups?wait=true', 'POST');
  if (task.state !== 'done') throw new Refused(task.errors[0]?.detail ?? 'No backup was made.');
  say(`Made the backup ${task.backup} in the server’s folder of backups.`);
  return 0;
}

/** Makes a data folder from a backup. The folder has another name until all of it is there and was checked. */
export async function restore(from: string, to: string): Promise<number> {
  const facts = factsOf(from);
  if (facts === null) throw new Refused(`${from} is no backup: there is no ${BACKUP_FACTS} in it.`);
  if (existsSync(to) && readdirSync(to).length > 0)
    throw new Refused(`${to} is not empty. A backup is restored into an empty folder; nothing was changed.`);
  const half = `${path.resolve(to)}.part`;
  await rm(half, { recursive: true, force: true });
  await mkdir(half, { recursive: true, mode: 0o700 });
  try {
    for (const { path: below } of facts.files) await cp(path.join(from, below), path.join(half, below));
    const problems = await problemsOf(half, facts);
    if (problems.length > 0) throw new Refused(`The backup is not whole, so nothing was restored: ${problems[0]}`);
    await rm(to, { recursive: true, force: true });
    await rename(half, to);
  } catch (error) {
    await rm(half, { recursive: true, force: true });
    throw error;
  }
  const records = facts.collections.reduce((sum, one) => sum + one.records, 0);
  say(`Restored ${facts.collections.length} collections with ${records} records of ${facts.at} into ${to}.`);
  say('Indexes are made anew at the next start; everything can be searched once GET /api/v1/ready says so.');
  return 0;
}

/** Checks a backup or a data folder. Returns 1 when something is wrong with it, and says what. */
export async function check(folder: string): Promise<number> {
  if (!existsSync(path.join(folder, DATABASE_FILE))) throw new Refused(`There is no ${DATABASE_FILE} in ${folder}.`);
  const facts = factsOf(folder);
  const problems = await problemsOf(folder, facts);
  for (const problem of problems) say(`✗ ${problem}`);
  if (problems.length === 0) say(facts === null ? '✓ the database is whole' : '✓ the backup is whole');
  return problems.length === 0 ? 0 : 1;
}

function factsOf(folder: string): BackupFacts | null {
  const file = path.join(folder, BACKUP_FACTS);
  if (!existsSync(file)) return null;
  const facts = JSON.parse(readFileSync(file, 'utf8')) as BackupFacts;
  if (facts.backup !== 1)
    throw new Refused(`${folder} was made by another Yucca, in a form that this one does not know.`);
  return facts;
}

async function problemsOf(folder: string, facts: BackupFacts | null): Promise<string[]> {
  const problems: string[] = [];
  for (const { path: below, bytes, sha256 } of facts?.files ?? []) {
    const file = path.join(folder, below);
    if (!existsSync(file)) problems.push(`${below} is missing`);
    else if ((await sha256Of(file)) !== sha256)
      problems.push(`${below} is not as it was when the backup was made (${bytes} bytes)`);
  }
  return problems.length > 0 ? problems : problemsOfDatabase(path.join(folder, DATABASE_FILE));
}

async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file), hash);
  return hash.digest('hex');
}

function problemsOfDatabase(file: string): string[] {
  try {
    const client = new Database(file, { readonly: true });
    try {
      const said = client.pragma('integrity_check(20)') as { integrity_check: string }[];
      return said.map(({ integrity_check: text }) => text).filter((text) => text !== 'ok');
    } finally {
      client.close();
    }
  } catch (error) {
    if (error instanceof Database.SqliteError) return [`${DATABASE_FILE}: ${error.message}`];
    throw error;
  }
}
