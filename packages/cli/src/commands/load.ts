import { WHOLE_FORMATS, type Task } from '@yucca/contract';
import { SingleBar } from 'cli-progress';
import { randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { Refused, request, requestJson, type Access } from '../server.ts';

export interface LoadOptions {
  mode: 'replace' | 'merge' | 'insert';
  format?: Format;
  /** Make the collection when it is not there, with this key field. */
  create?: string | boolean;
  assignKeys?: boolean;
  nest?: boolean;
  /** JSON: where the records are, a JSON Pointer. */
  at?: string;
  quiet?: boolean;
}

const MEDIA_TYPES = {
  json: 'application/json',
  ndjson: 'application/x-ndjson',
  csv: 'text/csv',
  ...WHOLE_FORMATS,
} as const;

export type Format = keyof typeof MEDIA_TYPES;
export const FORMATS = Object.keys(MEDIA_TYPES) as Format[];

/** Other endings of names than the formats' own. */
const ENDINGS: Readonly<Record<string, Format>> = {
  geojson: 'json',
  jsonl: 'ndjson',
  tsv: 'csv',
  yml: 'yaml',
  rss: 'xml',
  atom: 'xml',
  md: 'markdown',
  htm: 'html',
};
const POLL_MS = 300;
const ERRORS_SHOWN = 10;

/** What a file's name says of its format; null when it says nothing. */
export function formatOf(name: string): Format | null {
  const ending = /\.([a-z]+)(\.gz)?$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  return ENDINGS[ending] ?? FORMATS.find((format) => format === ending) ?? null;
}

/** Loads a file, or standard input (`-`), into a collection. Returns 0, or 3 when some lines failed. */
export async function load(access: Access, collection: string, file: string, options: LoadOptions): Promise<number> {
  const format = options.format ?? formatOf(file);
  if (format === null) throw new Refused(`Say what ${file} holds: --format ${FORMATS.join(', ')}.`);
  if (file !== '-') await requireFile(file);
  if (options.create !== undefined && options.create !== false) await create(access, collection, options.create);
  const id = randomUUID();
  const query = new URLSearchParams({ mode: options.mode, wait: 'true', task: id });
  if (options.assignKeys) query.set('assignKeys', 'true');
  if (options.nest) query.set('nest', 'true');
  if (format !== 'csv' && format !== 'ndjson') query.set('at', options.at ?? 'auto');
  const source: Readable = file === '-' ? process.stdin : createReadStream(file);
  const sent = request(access, `/collections/${encodeURIComponent(collection)}/records?${query.toString()}`, {
    method: 'POST',
    headers: {
      'Content-Type': MEDIA_TYPES[format],
      ...(/\.gz$/i.test(file) ? { 'Content-Encoding': 'gzip' } : {}),
    },
    body: Readable.toWeb(source) as unknown as BodyInit,
    duplex: 'half',
  } as RequestInit);
  const stop = options.quiet ? (): void => {} : watch(access, id);
  try {
    const { task } = (await (await sent).json()) as { task: Task };
    stop();
    return report(task);
  } finally {
    stop();
  }
}

async function requireFile(file: string): Promise<void> {
  const found = await stat(file).catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT' || error.code === 'ENOTDIR') return null;
    throw error;
  });
  if (found === null || !found.isFile()) throw new Refused(`There is no file ${file}.`);
}

async function create(access: Access, name: string, key: string | true): Promise<void> {
  try {
    await request(access, `/collections/${encodeURIComponent(name)}`);
  } catch (error) {
    if (!(error instanceof Refused) || error.status !== 404) throw error;
    await requestJson(access, '/collections', 'POST', { name, ...(key === true ? {} : { key }) });
  }
}

/** Shows how far a load is; returns what ends it. */
function watch(access: Access, id: string): () => void {
  const bar = new SingleBar({
    format: '{bar} {value} of about {total} rows, {failed} failed',
    barsize: 24,
    hideCursor: true,
    clearOnComplete: true,
    stream: process.stderr,
    noTTYOutput: false,
  });
  let begun = false;
  const timer = setInterval(() => {
    requestJson<{ task: Task }>(access, `/tasks/${id}`).then(
      ({ task }) => {
        const rows = task.done + task.failed;
        if (!begun) bar.start(Math.max(1, task.total), rows, { failed: task.failed });
        begun = true;
        bar.setTotal(Math.max(rows, task.total, 1));
        bar.update(rows, { failed: task.failed });
      },
      () => {},
    );
  }, POLL_MS);
  return () => {
    clearInterval(timer);
    bar.stop();
  };
}

function report(task: Task): number {
  const rows = (count: number): string => `${count.toLocaleString('en')} ${count === 1 ? 'row' : 'rows'}`;
  process.stderr.write(
    `${task.state === 'done' ? 'Loaded' : 'Stopped after'} ${rows(task.done)} into ${task.collection}`,
  );
  process.stderr.write(task.failed > 0 ? `, ${rows(task.failed)} failed:\n` : '.\n');
  if (task.repeated > 0)
    process.stderr.write(
      `${rows(task.repeated)} replaced an earlier one with the same key: load again with another key, if that is not meant.\n`,
    );
  for (const { line, id, detail } of task.errors.slice(0, ERRORS_SHOWN)) {
    const where = [line === undefined ? null : `line ${line}`, id].filter(Boolean).join(', ');
    process.stderr.write(`  ${where === '' ? '' : `${where}: `}${detail}\n`);
  }
  if (task.failed > ERRORS_SHOWN) process.stderr.write(`  and ${task.failed - ERRORS_SHOWN} more\n`);
  if (task.state !== 'done') return 1;
  return task.failed > 0 ? 3 : 0;
}
