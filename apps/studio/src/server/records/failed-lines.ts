import { closeSync, existsSync, mkdirSync, openSync, readdirSync, rmSync, statSync, writeSync } from 'node:fs';
import path from 'node:path';
import type { Row } from './parsers/parser';

/** Failed rows kept of one load; past it they are counted and not kept. */
const MOST_BYTES = 64 * 1024 * 1024;
/** Loads whose failed rows are kept. */
const MOST_FILES = 50;

/** Where the failed rows of a load lie. */
export function failedFile(dataDir: string, taskId: string): string {
  return path.join(dataDir, 'failed', `${taskId}.txt`);
}

/** Keeps the rows of a load that failed, in the form they came in, so that they can be mended and loaded again. */
export class FailedLines {
  readonly #file: string;
  #handle: number | null = null;
  #bytes = 0;

  constructor(dataDir: string, taskId: string) {
    this.#file = failedFile(dataDir, taskId);
  }

  keep(row: Row): void {
    const text = `${row.raw()}\n`;
    if (text === '\n' || this.#bytes > MOST_BYTES) return;
    if (this.#handle === null) {
      mkdirSync(path.dirname(this.#file), { recursive: true });
      this.#handle = openSync(this.#file, 'w');
      if (row.head) writeSync(this.#handle, `${row.head}\n`);
    }
    this.#bytes += writeSync(this.#handle, text);
  }

  /** Ends the file; returns whether there is one. */
  close(): boolean {
    if (this.#handle === null) return false;
    closeSync(this.#handle);
    removeOldest(path.dirname(this.#file));
    return true;
  }
}

function removeOldest(folder: string): void {
  if (!existsSync(folder)) return;
  const files = readdirSync(folder).map((name) => path.join(folder, name));
  if (files.length <= MOST_FILES) return;
  const byAge = files.map((file) => ({ file, at: statSync(file).mtimeMs })).sort((a, b) => a.at - b.at);
  for (const { file } of byAge.slice(0, files.length - MOST_FILES)) rmSync(file, { force: true });
}
