import type { Feed, FeedRun, FeedSource, RecordJson } from '@yucca/contract';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { House } from './house';

/** A Yucca with a collection `plants`, a folder it may read, and a server that is asked by its feeds. */
export class SourceHouse {
  house!: House;
  /** Host and port of the server. */
  base = '';
  loadDir = '';
  /** What the server says. */
  answer: (request: IncomingMessage, response: ServerResponse) => void = () => {};
  /** The paths it was asked for. */
  readonly asked: string[] = [];
  #server!: Server;

  async open(): Promise<void> {
    this.loadDir = mkdtempSync(path.join(tmpdir(), 'yucca-source-'));
    this.house = await new House({ YUCCA_LOAD_DIR: this.loadDir }).open();
    await this.house.yucca.collections.create({ name: 'plants' });
    this.asked.length = 0;
    this.#server = createServer((request, response) => {
      this.asked.push(request.url ?? '');
      this.answer(request, response);
    });
    await new Promise<void>((resolve) => this.#server.listen(0, '127.0.0.1', resolve));
    this.base = `127.0.0.1:${(this.#server.address() as { port: number }).port}`;
  }

  async leave(): Promise<void> {
    await this.house.leave();
    this.#server.closeAllConnections();
    this.#server.close();
    rmSync(this.loadDir, { recursive: true, force: true });
  }

  readonly pollOf = (more: object = {}): FeedSource => ({
    kind: 'poll',
    url: `http://${this.base}/plants.json`,
    allowPrivate: [this.base],
    ...more,
  });

  readonly all = async (): Promise<RecordJson[]> =>
    (await this.house.yucca.records.list('plants', 1, 100)).items.sort((a, b) =>
      String(a.id) < String(b.id) ? -1 : 1,
    );

  /** A feed whose first run is over. */
  readonly connected = async (source: FeedSource, mapping: Feed['mapping'] = []): Promise<Feed> => {
    const { feeds } = this.house.yucca;
    const { feed, secret } = feeds.create({ name: 'Source', collection: 'plants', source, mapping });
    expect(secret).toBeUndefined();
    return this.settled(feed.id);
  };

  readonly settled = async (id: string): Promise<Feed> => {
    for (let tries = 0; ; tries++) {
      const feed = this.house.yucca.feeds.get(id);
      if (feed.run === null ? feed.reason !== null : feed.run.state !== 'running') return feed;
      if (tries > 500) throw new Error('the run does not end');
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  };

  readonly run = (feed: Feed, order: { whole?: boolean; confirmed?: boolean } = {}): Promise<FeedRun> =>
    this.house.yucca.feeds.run(feed.id, { by: 'hand', ...order }, true);
}

/** One for each test of a file. */
export function sourceHouse(): SourceHouse {
  const own = new SourceHouse();
  beforeEach(() => own.open());
  afterEach(() => own.leave());
  return own;
}

/** Answers with JSON. */
export const json =
  (value: unknown, headers: Record<string, string> = {}) =>
  (_: IncomingMessage, response: ServerResponse): void =>
    void response.writeHead(200, { 'Content-Type': 'application/json', ...headers }).end(JSON.stringify(value));
