/** How soon a change of a source can be searched, at 200 events a second, also while an index is being built. */
import type { Collection, FeedWithSecret, SearchAnswer, TuningDocument } from '@yucca/contract';
import { createHmac, randomUUID } from 'node:crypto';
import { RealRecords } from './real-records.ts';
import { ask, BASE, call, loadLines, withServer } from './server.ts';
import { percentiles, round } from './stats.ts';

export interface FeedsResult {
  records: number;
  /** Events a second that were acknowledged. */
  eventsPerS: number;
  /** From the answer to an event until its record can be searched, in milliseconds. */
  medianMs: number;
  p95Ms: number;
  mostMs: number;
  /** The same while an index is being built for a draft, and for how long it was. */
  buildingMedianMs: number;
  buildingP95Ms: number;
  buildingMostMs: number;
  builtS: number;
}

const PER_S = 200;
const SECONDS = 30;
/** Every so many events it is watched how long it takes. */
const WATCHED = 100;
/** Requests of the source that are open at the most: it waits then, as a real one would. */
const MOST_OPEN = 32;
const LOOK_EVERY_MS = 25;
/** Records that are changed again and again. */
const KEYS = 500;

/** Loads so many real-shaped records into a built studio and sends it changes. */
export const measureFeeds = (records: number): Promise<FeedsResult> =>
  withServer(async () => {
    await call('POST', '/collections', JSON.stringify({ name: 'parts', key: 'id' }));
    const source = new RealRecords();
    await loadLines('parts', records, (i) => JSON.stringify(source.record(i)));
    const order = { name: 'Bench', collection: 'parts', source: { kind: 'webhook' } };
    const { feed, secret } = (await (await call('POST', '/feeds', JSON.stringify(order))).json()) as FeedWithSecret;
    const sender = new Sender(feed.id, secret!);
    const plain = await sender.run(() => false);
    const build = buildDraft();
    const building = await sender.run(() => build.isOver);
    await build.over;
    const { generation } = (await (await ask('/collections/parts')).json()) as Collection;
    if (generation < 1) throw new Error('the collection is not there any more');
    const [before, meanwhile] = [percentiles(plain.waits), percentiles(building.waits)];
    return {
      records,
      eventsPerS: Math.round(plain.perS),
      medianMs: before.medianMs,
      p95Ms: before.p95Ms,
      mostMs: round(Math.max(...plain.waits)),
      buildingMedianMs: meanwhile.medianMs,
      buildingP95Ms: meanwhile.p95Ms,
      buildingMostMs: round(Math.max(...building.waits)),
      builtS: round(build.tookS()),
    };
  });

/** Has an index built for a draft that searches other fields. */
function buildDraft(): { over: Promise<void>; isOver: boolean; tookS: () => number } {
  const start = performance.now();
  let took = 0;
  const state = { isOver: false, tookS: () => took, over: Promise.resolve() };
  state.over = (async () => {
    const draft = (await (await ask('/collections/parts/tuning')).json()) as {
      document?: TuningDocument;
    } & TuningDocument;
    const document = draft.document ?? draft;
    const next = { ...document, search: [{ field: 'name', weight: 3 }], stems: !(document.stems ?? true) };
    await (await call('PUT', '/collections/parts/tuning/draft?wait=true', JSON.stringify(next))).arrayBuffer();
    took = (performance.now() - start) / 1_000;
    state.isOver = true;
  })();
  return state;
}

/** Sends changes at a steady pace, and watches how soon some of them can be searched. */
class Sender {
  readonly #address: string;
  readonly #key: Buffer;
  readonly #source = new RealRecords();
  #sent = 0;
  #open = 0;

  constructor(feed: string, secret: string) {
    this.#address = `${BASE}/api/v1/feeds/${feed}/events`;
    this.#key = Buffer.from(secret.replace('whsec_', ''), 'base64');
  }

  /** For so many seconds, or until it is over. */
  async run(isOver: () => boolean): Promise<{ waits: number[]; perS: number }> {
    const waits: number[] = [];
    const open: Promise<void>[] = [];
    const start = performance.now();
    let n = 0;
    for (; n < PER_S * SECONDS && !isOver(); n++) {
      const due = start + (n * 1_000) / PER_S;
      if (performance.now() < due) await new Promise((resolve) => setTimeout(resolve, due - performance.now()));
      while (this.#open >= MOST_OPEN) await new Promise((resolve) => setTimeout(resolve, 1));
      open.push(this.#send(n % WATCHED === 0 ? waits : null));
    }
    const perS = n / ((performance.now() - start) / 1_000);
    await Promise.all(open);
    return { waits, perS };
  }

  async #send(waits: number[] | null): Promise<void> {
    const at = this.#sent++;
    const word = `zq${at.toString(36)}x${randomUUID().slice(0, 8)}`;
    const record = {
      ...this.#source.record(at),
      id: waits === null ? `bench-${at % KEYS}` : `watched-${at}`,
      name: `changed ${word}`,
    };
    const event = {
      specversion: '1.0',
      id: randomUUID(),
      source: '/bench',
      type: 'part.upserted',
      subject: record.id,
      time: new Date().toISOString(),
      data: record,
    };
    const body = JSON.stringify(event);
    const [id, now] = [randomUUID(), String(Math.floor(Date.now() / 1_000))];
    const signature = createHmac('sha256', this.#key).update(`${id}.${now}.${body}`).digest('base64');
    const headers = { 'Content-Type': 'application/cloudevents+json', 'webhook-id': id, 'webhook-timestamp': now, 'webhook-signature': `v1,${signature}` }; // prettier-ignore
    this.#open++;
    const response = await fetch(this.#address, { method: 'POST', headers, body });
    if (response.status !== 202) throw new Error(`${response.status} ${await response.text()}`);
    const answered = performance.now();
    await response.arrayBuffer();
    this.#open--;
    if (waits === null) return;
    for (;;) {
      const answer = (await (await ask(`/collections/parts/search?size=1&q=${word}`)).json()) as SearchAnswer;
      if (answer.total > 0) break;
      await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
    }
    waits.push(performance.now() - answered);
  }
}
