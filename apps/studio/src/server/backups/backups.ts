import type { Backup, BackupFacts, Task } from '@yucca/contract';
import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Logger } from 'pino';
import { VERSION, type Config } from '../config';
import { Failure } from '../failure';
import type { Tasks } from '../tasks/tasks';
import type { ScanMethods } from '../workers/scan-worker';
import type { RemoteThread } from '../workers/rpc';
import { factsOf } from './copy-everything';

export interface BackupParts {
  config: Pick<Config, 'dataDir' | 'backupDir' | 'backupEveryH' | 'backupsKept'>;
  tasks: Tasks;
  scan: () => RemoteThread<ScanMethods>;
  log: Pick<Logger, 'info' | 'error'>;
}

const HOUR_MS = 3_600_000;
/** Whether a backup is due is looked at this often: a timer of days does not survive a machine that sleeps. */
const LOOK_EVERY_MS = 60_000;
/** Backups that the schedule made; only these does it take away again. */
const SCHEDULED = '-scheduled';

/** Copies of everything: made on demand and by a schedule, listed, the oldest of the schedule's taken away. */
export class Backups {
  readonly #parts: BackupParts;
  readonly #timer: ReturnType<typeof setInterval> | null;
  /** The one that runs, and how far it is. */
  #running: { id: string; ended: Promise<Task> } | null = null;

  constructor(parts: BackupParts) {
    this.#parts = parts;
    const everyMs = (parts.config.backupEveryH ?? 0) * HOUR_MS;
    this.#timer =
      everyMs === 0 ? null : setInterval(() => this.#makeIfDue(everyMs), Math.min(LOOK_EVERY_MS, everyMs / 2)).unref();
  }

  close(): void {
    if (this.#timer !== null) clearInterval(this.#timer);
  }

  /** The backups there are, the newest first. */
  list(): Backup[] {
    const { backupDir } = this.#parts.config;
    if (!existsSync(backupDir)) return [];
    return readdirSync(backupDir)
      .flatMap((name) => {
        const facts = factsOf(path.join(backupDir, name));
        return facts === null ? [] : [present(name, facts)];
      })
      .sort((a, b) => (a.at < b.at ? 1 : -1));
  }

  /** Makes one, as a task. Throws a Failure while another one is being made. */
  make(suffix = ''): { task: Task; ended: Promise<Task> } {
    if (this.#running !== null) throw new Failure('conflict', 'A backup is being made already.');
    const { tasks, scan, config } = this.#parts;
    const id = randomUUID();
    const name = `yucca-${new Date().toISOString().replace(/[-:]|\.\d+/g, '')}-${id.slice(0, 4)}${suffix}`;
    tasks.begin(id, 'backup', '', () => {});
    tasks.update(id, { step: 'copying', backup: name, total: 100 });
    const ended = scan()
      .call('backup', [id, { dataDir: config.dataDir, backupDir: config.backupDir, name, version: VERSION }])
      .then(
        () => tasks.end(id, { state: 'done', done: 100 }),
        (error: Error) =>
          tasks.end(id, { state: 'failed', errors: [{ detail: `No backup was made: ${error.message}` }] }),
      )
      .finally(() => (this.#running = null));
    this.#running = { id, ended };
    return { task: tasks.get(id), ended };
  }

  /** What the thread says while it copies. */
  onProgress(id: string, share: number): void {
    this.#parts.tasks.update(id, { done: Math.round(share * 100) });
  }

  #makeIfDue(everyMs: number): void {
    if (this.#running !== null) return;
    const newest = this.list()[0];
    if (newest && Date.now() - Date.parse(newest.at) < everyMs) return;
    const { log } = this.#parts;
    void this.make(SCHEDULED)
      .ended.then(async ({ state, errors, backup }) => {
        if (state !== 'done') return log.error({ errors }, 'the scheduled backup failed');
        log.info({ backup }, 'made the scheduled backup');
        await this.#removeOld();
      })
      .catch((error: Error) => log.error({ error: error.message }, 'the scheduled backup failed'));
  }

  async #removeOld(): Promise<void> {
    const { backupDir, backupsKept } = this.#parts.config;
    const scheduled = this.list().filter(({ name }) => name.endsWith(SCHEDULED));
    for (const { name } of scheduled.slice(backupsKept))
      await rm(path.join(backupDir, name), { recursive: true, force: true });
  }
}

function present(name: string, { at, files, collections }: BackupFacts): Backup {
  return {
    name,
    at,
    bytes: files.reduce((sum, { bytes }) => sum + bytes, 0),
    collections: collections.length,
    records: collections.reduce((sum, { records }) => sum + records, 0),
  };
}
