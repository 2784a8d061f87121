import type { Feed, RecordJson } from '@yucca/contract';
import { signed } from '../src/server/feeds/signature';
import { House } from './house';

export const STRUCTURED = 'application/cloudevents+json';
export const BATCHED = 'application/cloudevents-batch+json';

/** A Yucca with a collection `plants` and a feed whose source sends its events, signed. */
export class SendingHouse {
  house!: House;
  feed!: Feed;
  secret = '';
  #sent = 0;

  async open(): Promise<void> {
    this.house = await new House().open();
    await this.house.yucca.collections.create({ name: 'plants' });
    const source = { kind: 'webhook' as const };
    const made = this.house.yucca.feeds.create({ name: 'Shop', collection: 'plants', source });
    this.feed = made.feed;
    this.secret = made.secret ?? '';
  }

  readonly event = (type: string, subject: string, data?: object, more: object = {}): object => ({
    specversion: '1.0',
    id: `e${this.#sent++}`,
    source: '/shop',
    type: `plant.${type}`,
    subject,
    ...(data && { data }),
    ...more,
  });

  readonly send = (
    body: object | string,
    { key = this.secret, type = '', at = new Date(), message = `m${this.#sent++}`, more = {} } = {},
  ): Promise<{ taken: number; repeats: number }> => {
    const text = typeof body === 'string' ? body : JSON.stringify(body);
    const contentType = type || (Array.isArray(body) ? BATCHED : STRUCTURED);
    const headers = new Map(
      Object.entries({ ...signed(key, message, text, at), 'content-type': contentType, ...more }),
    );
    return this.house.yucca.feeds.sent.take(
      this.feed.id,
      { get: (name) => headers.get(name) ?? null },
      text,
      JSON.parse,
    );
  };

  readonly all = async (): Promise<RecordJson[]> =>
    (await this.house.yucca.records.list('plants', 1, 100)).items.sort((a, b) =>
      String(a.id) < String(b.id) ? -1 : 1,
    );

  readonly states = (): string[] =>
    this.house.yucca.feeds.sent
      .events(this.feed.id, null, 1, 100)
      .items.map(({ state }) => state)
      .reverse();
}

/** One for each test of a file. */
export function sendingHouse(): SendingHouse {
  const own = new SendingHouse();
  beforeEach(() => own.open());
  afterEach(() => own.house.leave());
  return own;
}
