/** A PostgreSQL server of its own, from Debian's package, in a temporary folder. */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { chownSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { freePort } from './server.ts';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pg from 'pg';

const FOLDER = '/usr/lib/postgresql';

/** Where its programs are. Throws when the package is not installed. */
function programs(): string {
  const found = existsSync(FOLDER) ? readdirSync(FOLDER).sort().map((version) => path.join(FOLDER, version, 'bin')) : []; // prettier-ignore
  const last = process.env.POSTGRES_BIN ?? found.at(-1);
  if (last === undefined) throw new Error('PostgreSQL is not installed: install the package postgresql, or set POSTGRES_BIN.'); // prettier-ignore
  return last;
}

/** It refuses to run as root; the package brings a user for it. */
function user(): { uid?: number; gid?: number } {
  if (process.getuid?.() !== 0) return {};
  const id = (flag: string): number => Number(execFileSync('id', [flag, 'postgres']).toString());
  return { uid: id('-u'), gid: id('-g') };
}

export class Postgres {
  readonly port: number;
  readonly #folder: string;
  readonly #process: ChildProcess;

  private constructor(folder: string, port: number, child: ChildProcess) {
    this.#folder = folder;
    this.port = port;
    this.#process = child;
  }

  /** Starts one that logs changes for logical decoding. */
  static async start(settings: string[] = ['wal_level=logical']): Promise<Postgres> {
    const bin = programs();
    const folder = mkdtempSync(path.join(tmpdir(), 'yucca-postgres-'));
    const as = user();
    if (as.uid !== undefined) chownSync(folder, as.uid, as.gid!);
    const data = path.join(folder, 'data');
    const order = ['-D', data, '-U', 'shop', '--auth=trust', '--no-sync', '--encoding=UTF8', '--locale=C'];
    execFileSync(path.join(bin, 'initdb'), order, { ...as, stdio: 'ignore', cwd: folder });
    const port = await freePort();
    const child = spawn(
      path.join(bin, 'postgres'),
      ['-D', data, '-p', String(port), '-h', '127.0.0.1', '-k', folder, '-c', 'fsync=off', ...settings.flatMap((one) => ['-c', one])],
      { ...as, stdio: 'ignore', cwd: folder },
    ); // prettier-ignore
    const started = new Postgres(folder, port, child);
    for (let tries = 0; ; tries++) {
      try {
        const client = await started.client();
        await client.end();
        return started;
      } catch (error) {
        if (tries === 200) throw error;
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    }
  }

  async client(): Promise<pg.Client> {
    const client = new pg.Client({ host: '127.0.0.1', port: this.port, user: 'shop', database: 'postgres' });
    await client.connect();
    return client;
  }

  async stop(): Promise<void> {
    const ended = new Promise((resolve) => this.#process.once('exit', resolve));
    this.#process.kill('SIGINT');
    await ended;
    rmSync(this.#folder, { recursive: true, force: true });
  }
}
