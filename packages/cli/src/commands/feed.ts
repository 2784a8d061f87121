import type { Feed, FeedComparison, FeedRepair, FeedRun, Page, Task } from '@yucca/contract';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { Refused, request, requestJson, type Access } from '../server.ts';

const print = (text: string): void => void process.stdout.write(`${text}\n`);

/** Feeds by their names: what is asked for may be an id or a name, as long as that is one feed's alone. */
async function find(access: Access, name: string): Promise<Feed> {
  const { items } = await requestJson<Page<Feed>>(access, '/feeds?size=500');
  const found = items.filter((feed) => feed.id === name || feed.name === name);
  if (found.length === 1) return found[0]!;
  throw new Refused(found.length === 0 ? `There is no feed ${name}.` : `Several feeds are called ${name}: use the id.`);
}

const inWords = ({ name, id, collection, source, state, dead, lagS, run }: Feed): string =>
  [id, name, collection, source.kind, state, `${dead} not applied`, run === null ? `${lagS} s behind` : runWords(run)].join('\t'); // prettier-ignore

const runWords = ({ number, state, read, written, same, deleted, failed, asks, reason }: FeedRun): string =>
  `run ${number} ${state}: ${read} read, ${written} written, ${same} as they were, ${deleted} deleted, ${failed} not stored` +
  `${asks === null ? '' : `; ${asks} would be deleted (--confirm)`}${reason === null ? '' : `; ${reason}`}`;

/** Prints feeds, a line each. */
export async function listFeeds(access: Access, collection: string | undefined): Promise<number> {
  const query = new URLSearchParams({ size: '500', ...(collection !== undefined && { collection }) });
  const { items } = await requestJson<Page<Feed>>(access, `/feeds?${query.toString()}`);
  for (const feed of items) print(inWords(feed));
  return 0;
}

/** Prints how a feed does. Returns 3 when something of it waits for somebody. */
export async function feedStatus(access: Access, name: string, { json }: { json?: boolean }): Promise<number> {
  const feed = await find(access, name);
  print(json ? JSON.stringify(feed, null, 2) : `${inWords(feed)}${feed.reason === null ? '' : `\n${feed.reason}`}`);
  return feed.state === 'failing' || feed.dead > 0 || feed.run?.state === 'asking' ? 3 : 0;
}

/** Asks a source now, and waits for the end. Returns 3 when it failed, asks, or could not store some records. */
export async function runFeed(
  access: Access,
  name: string,
  { whole, confirm }: { whole?: boolean; confirm?: boolean },
): Promise<number> {
  const { id } = await find(access, name);
  const query = new URLSearchParams({
    wait: 'true',
    ...(whole && { whole: 'true' }),
    ...(confirm && { confirm: 'true' }),
  });
  const run = await requestJson<FeedRun>(access, `/feeds/${id}/run?${query.toString()}`, 'POST');
  print(runWords(run));
  return run.state === 'done' && run.failed === 0 ? 0 : 3;
}

/** What became of a task for which the records of a file are sent, or nothing. */
async function sending<T>(access: Access, path: string, file: string | undefined): Promise<T> {
  const { task } = (await (await sent(access, path, file)).json()) as { task: Task };
  if (task.state !== 'done') throw new Refused(task.errors[0]?.detail ?? `It was ${task.state}.`);
  return task.result as T;
}

async function sent(access: Access, path: string, file: string | undefined): Promise<Response> {
  if (file === undefined) return request(access, path, { method: 'POST' });
  if (file !== '-') await stat(file).catch(() => { throw new Refused(`There is no file ${file}.`); }); // prettier-ignore
  const source: Readable = file === '-' ? process.stdin : createReadStream(file);
  const body = Readable.toWeb(source) as unknown as BodyInit;
  return request(access, path, { method: 'POST', body, duplex: 'half', headers: { 'Content-Type': 'application/x-ndjson' } } as RequestInit); // prettier-ignore
}

/** Compares a collection with its source. Returns 3 when they differ. */
export async function compareFeed(access: Access, name: string, file: string | undefined): Promise<number> {
  const { id } = await find(access, name);
  const told = await sending<FeedComparison>(access, `/feeds/${id}/compare?wait=true`, file);
  const { samples } = told;
  print(`${told.records} records: ${told.same} the same, ${told.missing} missing, ${told.different} different, ${told.extra} not in the source`); // prettier-ignore
  if (samples.missing.length > 0) print(`missing: ${samples.missing.join(', ')}`);
  if (samples.different.length > 0)
    print(
      `different: ${samples.different.map(({ key, fields }) => (fields.length === 0 ? key : `${key} (${fields.join(', ')})`)).join(', ')}`,
    );
  if (samples.extra.length > 0) print(`not in the source: ${samples.extra.join(', ')}`);
  return told.missing + told.different + told.extra + told.unreadable === 0 ? 0 : 3;
}

/** Makes a collection what its source says. Returns 3 when it asks first. */
export async function repairFeed(
  access: Access,
  name: string,
  file: string | undefined,
  { what, confirm }: { what: string; confirm?: boolean },
): Promise<number> {
  const { id } = await find(access, name);
  const query = new URLSearchParams({ what, wait: 'true', ...(confirm && { confirm: 'true' }) });
  const told = await sending<FeedRepair>(access, `/feeds/${id}/repair?${query.toString()}`, file);
  print(`${told.written} written, ${told.deleted} deleted, ${told.left} left alone: they are newer`);
  if (told.asks !== null) print(`${told.asks} would be deleted: say --confirm`);
  return told.asks === null ? 0 : 3;
}
