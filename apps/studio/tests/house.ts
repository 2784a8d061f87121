import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { SearchAnswer, SearchRequest, Task } from '@yucca/contract';
import { pino } from 'pino';
import { readConfig } from '../src/server/config';
import { startRuntime, type Runtime } from '../src/server/runtime';
import type { LoadRequest } from '../src/server/records/records';

const MIGRATIONS = path.join(__dirname, '../drizzle');

/** A Yucca of its own in a temporary folder, which can be closed and opened again over the same data. */
export class House {
  readonly dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-test-'));
  yucca!: Runtime;
  readonly env: Record<string, string>;

  /** `env`: of Yucca, besides its folder and key. */
  constructor(env: Record<string, string> = {}) {
    this.env = env;
  }

  async open(): Promise<this> {
    const env = { YUCCA_DATA_DIR: this.dataDir, YUCCA_ADMIN_KEY: 'test-key', ...this.env };
    const config = readConfig(env as unknown as NodeJS.ProcessEnv);
    this.yucca = startRuntime(config, MIGRATIONS, pino({ level: 'silent' }));
    await this.yucca.opened;
    return this;
  }

  async reopen(): Promise<void> {
    await this.yucca.close();
    await this.open();
  }

  async leave(): Promise<void> {
    await this.yucca.close();
    for (const folder of [this.dataDir, `${this.dataDir}-backups`]) rmSync(folder, { recursive: true, force: true });
  }

  /** Loads text into a collection and waits until it can be searched. */
  async load(name: string, text: string | Buffer, mediaType: string, more: Partial<LoadRequest> = {}): Promise<Task> {
    const bytes = Buffer.from(text as string);
    const body = (async function* () {
      // Odd pieces, so that lines, quotes and letters are cut anywhere.
      for (let at = 0; at < bytes.length; at += 997) yield new Uint8Array(bytes.subarray(at, at + 997));
    })();
    const order = {
      mediaType,
      gzip: false,
      mode: 'replace' as const,
      assignKeys: false,
      bytes: bytes.length,
      body,
      ...more,
    };
    return (await this.yucca.records.load(name, order)).searchable;
  }

  search(name: string, request: SearchRequest | string): Promise<SearchAnswer> {
    return this.yucca.search.search(name, typeof request === 'string' ? { q: request } : request);
  }

  async ids(name: string, request: SearchRequest | string): Promise<string[]> {
    return (await this.search(name, request)).results.map(({ id }) => id).sort();
  }
}

export const lines = (records: unknown[]): string => records.map((record) => `${JSON.stringify(record)}\n`).join('');

/** What became of a comparison or a repair; throws when it did not come to its end. */
export async function resultOf<T = object>(begun: Promise<{ ended: Promise<Task> }>): Promise<T> {
  const { state, errors, result } = await (await begun).ended;
  if (state !== 'done') throw new Error(errors[0]?.detail ?? state);
  return result as T;
}
