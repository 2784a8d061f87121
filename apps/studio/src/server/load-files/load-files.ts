import { asUtf8, charsetOf } from '@/text/charset';
import { guessBinary, guessFormat } from '@yucca/engine/understand';
import { createReadStream } from 'node:fs';
import { open, readdir, stat } from 'node:fs/promises';
import path from 'node:path';
import { Failure } from '../failure';
import { nothingThere, placeInside } from './place-inside';

/** A file of the server's own machine that may be loaded. */
export interface LoadFile {
  /** Below the folder that the owner allows. */
  path: string;
  bytes: number;
}

const KINDS = /\.((geo)?json|jsonl|ndjson|csv|tsv|xlsx|ya?ml|xml|rss|atom|parquet|md|html?|zip)(\.gz)?$/i;
const MOST = 1_000;
const HEAD_BYTES = 64 * 1024;

/** Files on the server's own machine, in the one folder that its owner allows (`YUCCA_LOAD_DIR`). */
export class LoadFiles {
  readonly #folder: string | null;

  constructor(folder: string | null) {
    this.#folder = folder;
  }

  /** What there is to load; null when no folder is allowed. */
  async list(): Promise<LoadFile[] | null> {
    if (this.#folder === null) return null;
    const names = await readdir(this.#folder, { recursive: true }).catch(nothingThere([]));
    const files = names.filter((name) => KINDS.test(name)).slice(0, MOST);
    const found = await Promise.all(
      files.map(async (name) => {
        const file = await this.#find(name);
        return file === null ? [] : [{ path: name, bytes: file.bytes }];
      }),
    );
    return found.flat().sort((a, b) => (a.path < b.path ? -1 : 1));
  }

  /** Opens one of them. Throws a Failure when it lies elsewhere, is not there, or is nothing that can be loaded. */
  async open(
    name: string,
  ): Promise<{ mediaType: string; gzip: boolean; bytes: number; body: AsyncIterable<Uint8Array> }> {
    if (this.#folder === null)
      throw new Failure(
        'forbidden',
        'Files of this machine may not be loaded. Its owner allows a folder with YUCCA_LOAD_DIR.',
      );
    const found = await this.#find(name);
    if (found === null)
      throw new Failure('not-found', `There is no file “${name}” in the folder that files may be loaded from.`);
    const { file, bytes } = found;
    const gzip = /\.gz$/i.test(file);
    return { mediaType: await mediaTypeOf(file, gzip), gzip, bytes, body: createReadStream(file) };
  }

  /** A file of the folder; null for anything else. Links are followed first, so that none leads out of the folder. */
  async #find(name: string): Promise<{ file: string; bytes: number } | null> {
    const file = await placeInside(this.#folder!, name);
    const facts = file === null ? null : await stat(file).catch(nothingThere(null));
    return file !== null && facts?.isFile() === true ? { file, bytes: facts.size } : null;
  }
}

async function mediaTypeOf(file: string, gzip: boolean): Promise<string> {
  if (gzip) return guessByName(file.replace(/\.gz$/i, ''));
  const handle = await open(file);
  const head = Buffer.alloc(HEAD_BYTES);
  const { bytesRead } = await handle.read(head, 0, HEAD_BYTES, 0);
  await handle.close();
  const read = head.subarray(0, bytesRead);
  const name = path.basename(file);
  const guess = guessFormat(guessBinary(read, name) === null ? asUtf8(read, charsetOf(read)) : read, name);
  if (!guess.ok) throw new Failure('unsupported-type', guess.reason);
  return guess.mediaType;
}

function guessByName(name: string): string {
  if (/\.json$/i.test(name)) return 'application/json';
  return /\.(jsonl|ndjson)$/i.test(name) ? 'application/x-ndjson' : 'text/csv';
}
