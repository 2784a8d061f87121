/** The back office of the nursery: a small shop system of its own, whose changes reach Yucca through a feed. */
import { createReadStream } from 'node:fs';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import path from 'node:path';
import { createInterface } from 'node:readline';
import type { Feed, FeedComparison, FeedRepair, FeedWithSecret, Page, Task } from '@yucca/contract';
import { comparedPage, linePage, listPage, missingPage, plantPage, STYLE } from './pages.ts';
import { startSending } from './sender.ts';
import { Store } from './store.ts';

const MOST_FORM_BYTES = 10_000;

export interface BackOffice {
  address: string;
  store: Store;
  close: () => Promise<void>;
}

export interface BackOfficeOptions {
  dataDir: string;
  /** Where Yucca is, and a key of its owner, to connect the first time. */
  yucca: string;
  adminKey: string;
  port: number;
}

/** Starts it; the first time it takes its plants from the nursery's file and connects itself to Yucca. */
export async function startBackOffice({ dataDir, yucca, adminKey, port }: BackOfficeOptions): Promise<BackOffice> {
  const store = new Store(path.join(dataDir, 'back-office.sqlite'));
  if (store.isEmpty) {
    const lines: string[] = [];
    const file = createReadStream(path.join(dataDir, 'quillbrook/plants.jsonl'));
    for await (const line of createInterface({ input: file })) lines.push(line);
    store.fill(lines);
  }
  const yuccaHere: Yucca = { base: `${yucca}/api/v1`, adminKey };
  await connect(store, yuccaHere);
  const stop = startSending(store, {
    address: `${yucca}/api/v1/feeds/${store.setting('feed')}/events`,
    secret: store.setting('secret')!,
  });
  const server = createServer((request, response) => {
    answer(store, yuccaHere, request).then(
      ({ status, body = '', headers = {} }) => response.writeHead(status, { 'Content-Type': 'text/html; charset=utf-8', ...headers }).end(body), // prettier-ignore
      (error: Error) => response.writeHead(400, { 'Content-Type': 'text/plain' }).end(error.message),
    );
  });
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(port, '127.0.0.1', resolve));
  const { port: own } = server.address() as { port: number };
  return {
    address: `http://127.0.0.1:${own}`,
    store,
    close: async () => {
      await stop();
      await closed(server);
      store.close();
    },
  };
}

const closed = (server: Server): Promise<void> =>
  new Promise((resolve) => {
    server.close(() => resolve());
    server.closeAllConnections();
  });

interface Yucca {
  base: string;
  adminKey: string;
}

async function call<T>(
  { base, adminKey }: Yucca,
  method: string,
  route: string,
  body?: string,
  type = 'json',
): Promise<T> {
  const headers = { Authorization: `Bearer ${adminKey}`, 'Content-Type': `application/${type}` };
  const response = await fetch(`${base}${route}`, { method, headers, ...(body !== undefined && { body }) });
  if (!response.ok) throw new Error(`${method} ${route}: ${await response.text()}`);
  return (await response.json()) as T;
}

/** Makes the feed, unless the one it knows is still there. */
async function connect(store: Store, yucca: Yucca): Promise<void> {
  const { items } = await call<Page<Feed>>(yucca, 'GET', '/feeds?collection=plants&size=200');
  if (items.some(({ id }) => id === store.setting('feed'))) return;
  const order = { name: 'Back office', collection: 'plants', source: { kind: 'webhook' } };
  const { feed, secret } = await call<FeedWithSecret>(yucca, 'POST', '/feeds', JSON.stringify(order));
  store.set('feed', feed.id);
  store.set('secret', secret!);
}

/** Has Yucca compare all plants with its records, or make them the same. */
async function compared<T>(store: Store, yucca: Yucca, what: 'compare' | 'repair'): Promise<T> {
  const asOf = encodeURIComponent(new Date().toISOString());
  const query = what === 'repair' ? `&what=missing,different,extra&asOf=${asOf}` : '';
  const path = `/feeds/${store.setting('feed')}/${what}?wait=true${query}`;
  const { task } = await call<{ task: Task }>(yucca, 'POST', path, store.lines().join('\n'), 'x-ndjson');
  if (task.state !== 'done') throw new Error(task.errors[0]?.detail ?? task.state);
  return task.result as T;
}

interface Answer {
  status: number;
  body?: string;
  headers?: Record<string, string>;
}

const seeOther = (location: string): Answer => ({ status: 303, headers: { Location: location } });

async function answer(store: Store, yucca: Yucca, request: IncomingMessage): Promise<Answer> {
  const url = new URL(request.url ?? '/', 'http://back-office');
  // A page of another site must not change plants for whoever looks at it.
  const site = request.headers['sec-fetch-site'];
  if (request.method === 'POST' && site !== undefined && site !== 'same-origin') return { status: 403 };
  if (url.pathname === '/style.css') return { status: 200, body: STYLE, headers: { 'Content-Type': 'text/css' } };
  if (url.pathname === '/line') {
    if (request.method !== 'POST') return { status: 200, body: linePage(store.trouble, store.waiting) };
    const form = await readForm(request);
    const share = (name: string): number => Math.min(100, Math.max(0, Number(form.get(name)) || 0)) / 100;
    const trouble = {
      lose: share('lose'),
      repeat: share('repeat'),
      reorder: share('reorder'),
      delayMs: Math.max(0, Number(form.get('delayMs')) || 0),
      stopped: form.has('stopped'),
    };
    store.set('trouble', JSON.stringify(trouble));
    return seeOther('/line');
  }
  const what = /^\/(compare|repair)$/.exec(url.pathname)?.[1];
  if (what !== undefined && request.method === 'POST') {
    const repaired = what === 'repair' ? await compared<FeedRepair>(store, yucca, 'repair') : null;
    return { status: 200, body: comparedPage(await compared<FeedComparison>(store, yucca, 'compare'), repaired) };
  }
  const id = /^\/plants\/([^/]+)$/.exec(url.pathname)?.[1];
  if (id === undefined) return { status: 200, body: listPage(store, url.searchParams.get('q') ?? '') };
  const plant = store.plant(decodeURIComponent(id));
  if (plant === null) return { status: 404, body: missingPage() };
  if (request.method !== 'POST') return { status: 200, body: plantPage(plant) };
  const form = await readForm(request);
  if (form.get('do') === 'delete') {
    store.change(plant.id, null);
    return seeOther('/');
  }
  const [name, price, stock] = [form.get('name') ?? '', Number(form.get('price')), Number(form.get('stock'))];
  if (name.trim() === '' || !(price >= 0) || !(stock >= 0))
    throw new Error('A plant needs a name, a price and a stock.');
  store.change(plant.id, { name: name.trim(), price, stock });
  return seeOther(`/plants/${id}`);
}

async function readForm(request: IncomingMessage): Promise<URLSearchParams> {
  const parts: Buffer[] = [];
  let bytes = 0;
  for await (const part of request as AsyncIterable<Buffer>) {
    bytes += part.length;
    if (bytes > MOST_FORM_BYTES) throw new Error('The form is too large.');
    parts.push(part);
  }
  return new URLSearchParams(Buffer.concat(parts).toString());
}
