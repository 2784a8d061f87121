import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { SearchAnswer, SearchRequest, Task } from '@yucca/contract';
import { pino } from 'pino';
import { startRuntime, type Runtime } from '../src/server/runtime';
import type { LoadRequest } from '../src/server/records/records';

// Threads start slowly on a busy machine.
jest.setTimeout(30_000);

const MIGRATIONS = path.join(__dirname, '../drizzle');

/** A Yucca of its own in a temporary folder, which can be closed and opened again over the same data. */
export class House {
  readonly dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-test-'));
  yucca!: Runtime;

  async open(): Promise<this> {
    const config = {
      dataDir: this.dataDir,
      host: '127.0.0.1',
      loopback: true,
      adminKey: 'test-key',
      password: null,
      loadDir: null,
    };
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
    rmSync(this.dataDir, { recursive: true, force: true });
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
