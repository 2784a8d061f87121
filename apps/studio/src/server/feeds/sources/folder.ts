import type { FolderSource } from '@yucca/contract';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import path from 'node:path';
import { createGunzip } from 'node:zlib';
import { PAGE, readHtmlPage, readMarkdown } from '@/formats/pages';
import { placeInside } from '../../load-files/place-inside';
import { SourceError } from '../outside/source-error';
import { keyOf } from './poll';
import { rowsOf } from './rows-of';
import { emptyBatch, noted, type SourceBatch, type SourceLine, type SourceReader } from './source';

interface Position {
  /** Of the names, sizes and dates of all files. */
  print: string;
}

interface Resume {
  /** The file to go on with. */
  at: number;
  print: string;
  key: string;
}

const KINDS =
  /\.((geo)?json|jsonl|ndjson|csv|tsv|xlsx|ya?ml|xml|rss|atom|parquet|md|markdown|mdx|html?|xhtml)(\.gz)?$/i;
const MOST_FILES = 50_000;
const PAGE_BYTES = 8 * 1024 ** 2;
const PAGES_AT_ONCE = 50;

/** The files of a folder: tables and JSON by their rows, pages (Markdown, HTML) each as a record of its path. */
export const folder: SourceReader<FolderSource> = {
  async *read(source, { loadDir, position, resume, whole, keyField }) {
    const root = await insideLoadDir(loadDir, source.path);
    const files = await filesOf(root);
    const print = await printOf(root, files);
    if (!whole && noted<Position>(position)?.print === print) return { whole: false, position, unchanged: true };
    const broken = noted<Resume>(resume);
    // Files that have changed since are read anew: what they brought then is only compared.
    const from = broken?.print === print ? broken : null;
    let key = source.key ?? from?.key;
    let pages: SourceLine[] = [];
    let isFirst = from === null;
    const isAnew = (): boolean => {
      const was = isFirst;
      isFirst = false;
      return was;
    };
    const pagesBatch = (at: number): SourceBatch => {
      const batch = {
        ...emptyBatch(source.key ?? 'path'),
        records: pages,
        resume: resumeAt(at),
        isAlike: false,
        anew: isAnew(),
      };
      pages = [];
      return batch;
    };
    const resumeAt = (at: number): string => JSON.stringify({ at, print, key: key ?? keyField } satisfies Resume);
    for (let at = from?.at ?? 0; at < files.length; at++) {
      const name = files[at]!;
      if (PAGE.test(name)) {
        pages.push(await pageOf(root, name, source.key ?? 'path'));
        if (pages.length >= PAGES_AT_ONCE) yield pagesBatch(at + 1);
        continue;
      }
      if (pages.length > 0) yield pagesBatch(at);
      for await (const records of rowsOf(textOf(root, name), { at: source.at })) {
        key ??= keyOf(records, keyField);
        yield { ...emptyBatch(key), records, resume: resumeAt(at), isAlike: false, anew: isAnew() };
      }
    }
    if (pages.length > 0) yield pagesBatch(files.length);
    return { whole: true, position: JSON.stringify({ print } satisfies Position), unchanged: false };
  },
};

/** A place below the folder that files may be read from; links are followed first. Throws a SourceError. */
export async function insideLoadDir(loadDir: string | null, name: string): Promise<string> {
  if (loadDir === null)
    throw new SourceError('Files of this machine may not be read. Its owner allows a folder with YUCCA_LOAD_DIR.', { isLasting: true }); // prettier-ignore
  const place = await placeInside(loadDir, name);
  if (place === null)
    throw new SourceError(`There is no “${name.slice(0, 200)}” in the folder that files may be read from.`);
  return place;
}

/** Files that can be read, by their path below the folder, in order. Links that lead out of it are passed over. */
async function filesOf(root: string): Promise<string[]> {
  const facts = await stat(root);
  if (!facts.isDirectory()) throw new SourceError(`${path.basename(root)} is no folder.`);
  const entries = await readdir(root, { recursive: true, withFileTypes: true });
  const names = entries
    .filter((entry) => entry.isFile() && KINDS.test(entry.name) && !entry.name.startsWith('.'))
    .map((entry) => path.relative(root, path.join(entry.parentPath, entry.name)));
  if (names.length > MOST_FILES) throw new SourceError(`The folder holds more than ${MOST_FILES} files.`);
  return names.sort();
}

async function printOf(root: string, files: readonly string[]): Promise<string> {
  const hash = createHash('sha256');
  for (const name of files) {
    const facts = await stat(path.join(root, name)).catch(() => null);
    hash.update(`${name}\n${facts?.size ?? 0} ${facts?.mtimeMs ?? 0}\n`);
  }
  return hash.digest('base64url');
}

function textOf(root: string, name: string): Parameters<typeof rowsOf>[0] {
  const file = createReadStream(path.join(root, name));
  const isPacked = /\.gz$/i.test(name);
  const body = isPacked ? file.pipe(createGunzip()) : file;
  if (isPacked) file.on('error', (error) => body.destroy(error));
  return { name: name.replace(/\.gz$/i, ''), mediaType: null, charset: null, body: guarded(body, name) };
}

/** What the system says of a file, as a sentence. */
async function* guarded(body: AsyncIterable<Uint8Array>, name: string): AsyncGenerator<Uint8Array> {
  try {
    yield* body;
  } catch (error) {
    const { code, message } = error as NodeJS.ErrnoException;
    throw code === undefined ? error : new SourceError(`${name} could not be read: ${code === 'Z_DATA_ERROR' ? 'it is no gzip' : message}.`); // prettier-ignore
  }
}

async function pageOf(root: string, name: string, key: string): Promise<SourceLine> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of guarded(createReadStream(path.join(root, name)), name)) {
    bytes += chunk.length;
    if (bytes > PAGE_BYTES) return { error: `${name} is larger than ${PAGE_BYTES / 1024 ** 2} MB`, line: 1 };
    chunks.push(chunk);
  }
  const read = /\.x?html?$/i.test(name) ? readHtmlPage : readMarkdown;
  const [page] = (await read(Buffer.concat(chunks))) as [object];
  return { json: JSON.stringify({ [key]: name.split(path.sep).join('/'), ...page }) };
}
