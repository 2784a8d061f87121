/** @jest-environment node */
/** Addresses that are asked: what they have is what the collection has, and nothing is deleted unasked. */
import type { FeedSource } from '@yucca/contract';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { gzipSync } from 'node:zlib';
import { lines, resultOf } from './house';
import { json, sourceHouse } from './source-house';

const own = sourceHouse();
const { all, asked, connected, pollOf, run, settled } = own;
const TEN = Array.from({ length: 10 }, (_, i) => ({ id: `p${i}`, name: `Plant ${i}`, price: i }));

describe('an address', () => {
  test('is read whole; what it changes is written, what it lacks is deleted', async () => {
    own.answer = json(TEN);
    const feed = await connected(pollOf());
    expect(feed.run).toMatchObject({ state: 'done', by: 'schedule', whole: true, read: 10, written: 10, same: 0 });
    expect(await own.house.ids('plants', 'plant 3')).toContain('p3');
    own.answer = json([{ ...TEN[0]!, price: 99 }, ...TEN.slice(2)]);
    expect(await run(feed)).toMatchObject({ state: 'done', read: 9, written: 1, same: 8, deleted: 1 });
    expect((await all()).map(({ id, price }) => [id, price]).slice(0, 2)).toEqual([['p0', 99], ['p2', 2]]); // prettier-ignore
  });

  test('deletes more than a tenth only when that is said, and nothing for an empty answer', async () => {
    own.answer = json(TEN);
    const feed = await connected(pollOf());
    own.answer = json(TEN.slice(0, 7));
    expect(await run(feed)).toMatchObject({ state: 'asking', asks: 3, deleted: 0 });
    expect(await all()).toHaveLength(10);
    expect(await run(feed, { confirmed: true })).toMatchObject({ state: 'done', deleted: 3 });
    expect(await all()).toHaveLength(7);
    own.answer = json([]);
    expect(await run(feed)).toMatchObject({ state: 'done', deleted: 0, reason: expect.stringMatching(/no records/) as string }); // prettier-ignore
    expect(await all()).toHaveLength(7);
    await expect(run(feed, { confirmed: true })).rejects.toThrow('asks for nothing');
  });

  test('leaves what others brought: files, another feed', async () => {
    await own.house.load('plants', lines([{ id: 'own', name: 'By hand' }]), 'application/x-ndjson');
    own.answer = (request, response) => json(request.url === '/b' ? TEN.slice(5) : TEN.slice(0, 6))(request, response);
    const a = await connected(pollOf());
    await connected(pollOf({ url: `http://${own.base}/b` }));
    expect(await all()).toHaveLength(11);
    own.answer = json(TEN.slice(0, 1));
    await run(a);
    expect(await run(a, { confirmed: true })).toMatchObject({ deleted: 4 });
    // p5 is the other feed's too.
    expect((await all()).map(({ id }) => id)).toEqual(['own', 'p0', 'p5', 'p6', 'p7', 'p8', 'p9']);
  });

  test('is asked only for what changed, page after page, and tells nothing new in one request', async () => {
    const pages = [TEN.slice(0, 4), TEN.slice(4, 8), TEN.slice(8)];
    own.answer = (request, response) => {
      if (request.headers['if-none-match'] === '"1"') return void response.writeHead(304).end();
      const page = Number(new URL(request.url!, 'http://x').searchParams.get('page') ?? 0);
      const next =
        page < 2
          ? { Link: `</other>; rel="prev", </plants.json?page=${page + 1}>; rel="next"` }
          : ({} as Record<string, string>);
      json({ data: pages[page], meta: { page } }, { ETag: page === 0 ? '"1"' : '"x"', ...next })(request, response);
    };
    const feed = await connected(pollOf({ everyS: 3600 }));
    expect(feed.run).toMatchObject({ state: 'done', read: 10 });
    expect(asked).toEqual(['/plants.json', '/plants.json?page=1', '/plants.json?page=2']);
    expect(Date.parse(feed.nextRunAt!) - Date.now()).toBeGreaterThan(3_500_000);
    expect(await run(feed)).toMatchObject({ state: 'done', read: 0, deleted: 0 });
    expect(asked).toHaveLength(4);
    expect(await run(feed, { whole: true })).toMatchObject({ read: 10, same: 10 });
  });

  test('goes on from a cursor, and deletes nothing then', async () => {
    own.answer = json([{ id: 'a', at: '2026-05-01' }, { id: 'b', at: '2026-05-03' }]); // prettier-ignore
    const feed = await connected(pollOf({ cursor: { parameter: 'since', field: 'at' } }));
    own.answer = json([{ id: 'c', at: '2026-05-04' }]);
    expect(await run(feed)).toMatchObject({ whole: false, read: 1, written: 1, deleted: 0 });
    expect(asked).toEqual(['/plants.json', '/plants.json?since=2026-05-03']);
    expect(await all()).toHaveLength(3);
    await run(feed);
    expect(asked.at(-1)).toBe('/plants.json?since=2026-05-04');
  });

  test('CSV in another charset, gzip, JSON Lines, Atom: by what is answered', async () => {
    const send = (body: string | Buffer, headers: Record<string, string>) => {
      own.answer = (_, response) => void response.writeHead(200, headers).end(body);
    };
    send(Buffer.from('id;name\n1;Wei\xdfdorn\n', 'latin1'), { 'Content-Type': 'text/csv; charset=iso-8859-1' });
    const feed = await connected(pollOf());
    expect(await all()).toEqual([{ id: '1', name: 'Weißdorn' }]);
    send(gzipSync(lines([{ id: '1', name: 'Hawthorn' }])), { 'Content-Type': 'application/x-ndjson', 'Content-Encoding': 'gzip' }); // prettier-ignore
    await run(feed);
    expect(await all()).toEqual([{ id: '1', name: 'Hawthorn' }]);
    send('<feed xmlns="http://www.w3.org/2005/Atom"><title>News</title><entry><id>1</id><title>Rose</title></entry><entry><id>2</id><title>Fern</title></entry></feed>', { 'Content-Type': 'application/atom+xml' }); // prettier-ignore
    // Its fields are others: that is asked about.
    expect(await run(feed)).toMatchObject({ state: 'asking' });
    await run(feed, { confirmed: true });
    expect((await all()).map(({ title }) => title)).toEqual(['Rose', 'Fern']);
  });

  test('a sitemap: its pages, but for what robots.txt does not allow', async () => {
    own.answer = (request, response) => {
      const pages: Record<string, string> = {
        '/robots.txt': 'User-agent: *\nDisallow: /private/',
        '/map.xml': `<sitemapindex xmlns="x"><sitemap><loc>http://${own.base}/one.xml</loc></sitemap></sitemapindex>`,
        '/one.xml': `<urlset xmlns="x"><url><loc>http://${own.base}/fern</loc><lastmod>2026-01-01</lastmod></url><url><loc>http://${own.base}/private/x</loc></url><url><loc>http://${own.base}/gone</loc></url></urlset>`, // prettier-ignore
        '/fern': '<!doctype html><title>Ferns</title><script>evil()</script><h1>In shade</h1><p>They like it damp.',
      };
      const page = pages[request.url!];
      response.writeHead(page === undefined ? 404 : 200, { 'Content-Type': 'text/html' }).end(page);
    };
    const feed = await connected(pollOf({ url: `http://${own.base}/map.xml`, format: 'sitemap' }));
    expect(feed.run).toMatchObject({ state: 'done', read: 2, written: 1, failed: 1, reason: expect.stringMatching(/gone answers 404/) as string }); // prettier-ignore
    expect(await all()).toEqual([{ id: `http://${own.base}/fern`, url: `http://${own.base}/fern`, title: 'Ferns', headings: ['In shade'], text: 'In shade They like it damp.' }]); // prettier-ignore
    expect(asked).not.toContain('/private/x');
    await run(feed);
    expect(asked.filter((one) => one === '/fern')).toHaveLength(1);
  });

  test('what it cannot answer is told, tried again less and less often, and loses nothing', async () => {
    own.answer = json(TEN);
    const feed = await connected(pollOf({ everyS: 1_000, timeoutS: 1 }));
    const cases: [typeof own.answer, RegExp][] = [
      [(_, response) => void response.writeHead(503, { 'Retry-After': '500' }).end(), /answers 503/],
      [(_, response) => void response.writeHead(200, { 'Content-Type': 'text/html' }).end('<!doctype html><p>Sorry'), /web page/],
      [() => {}, /did not answer within 1 s/],
      [(_, response) => void response.writeHead(200, { 'Content-Length': '1000' }).write('[{"id":"p0"},'), /sent nothing for 1 s/],
      [(_, response) => { response.writeHead(200, { 'Content-Length': '1000' }).write('[{"id":"p0"},'); setTimeout(() => response.destroy(), 20); }, /ended its answer before/],
      [(_, response) => void response.writeHead(302, { Location: 'file:///etc/passwd' }).end(), /https: or http:/],
      [(_, response) => void response.writeHead(302, { Location: '/plants.json' }).end(), /redirects more than/],
      [(_, response) => void response.writeHead(302, { Location: 'http://169.254.169.254/latest' }).end(), /private network/],
      [(_, response) => void response.writeHead(200, { 'Content-Encoding': 'gzip' }).end('no gzip'), /could not be read/],
      [(_, response) => void response.writeHead(200, { 'Content-Encoding': 'x-odd' }).end('?'), /coding/],
      [json('a text'), /./],
    ]; // prettier-ignore
    for (const [bad, reason] of cases) {
      own.answer = bad;
      const told = await run(feed);
      expect({ reason: told.reason ?? '', state: told.state }).toEqual({ reason: expect.stringMatching(reason) as string, state: /\.$/.test(reason.source) ? told.state : expect.any(String) as string }); // prettier-ignore
      expect(await all()).toHaveLength(10);
    }
    own.answer = (_, response) => void response.writeHead(503, { 'Retry-After': '5000' }).end();
    await run(feed);
    const failing = own.house.yucca.feeds.get(feed.id);
    expect(failing).toMatchObject({ state: 'failing', reason: expect.stringMatching(/503/) as string });
    expect(Date.parse(failing.nextRunAt!) - Date.now()).toBeGreaterThan(4_000_000);
    own.answer = json(TEN);
    expect(await run(feed)).toMatchObject({ state: 'done' });
    expect(own.house.yucca.feeds.get(feed.id)).toMatchObject({ state: 'running', reason: null });
  });

  test('an address that says nothing has changed is asked by its schedule, and no sooner', async () => {
    own.answer = (request, response) => {
      if (request.headers['if-none-match']) return void response.writeHead(304).end();
      json(TEN, { ETag: '"1"' })(request, response);
    };
    const feed = await connected(pollOf({ everyS: 1 }));
    await new Promise((resolve) => setTimeout(resolve, 3_500));
    expect(asked.length).toBeGreaterThanOrEqual(3);
    expect(asked.length).toBeLessThanOrEqual(5);
    // One that is being asked just now is a run until it has said that nothing changed.
    const kept = (): number => own.house.yucca.feeds.runs(feed.id, 1, 10).total;
    for (let tries = 0; kept() > 1 && tries < 500; tries++) await new Promise((resolve) => setTimeout(resolve, 10));
    expect(kept()).toBe(1);
    own.house.yucca.feeds.pause(feed.id);
    const before = asked.length;
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    expect(asked).toHaveLength(before);
    await own.house.yucca.feeds.resume(feed.id);
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    expect(asked.length).toBeGreaterThan(before);
    own.house.yucca.removeCollection('plants');
    await new Promise((resolve) => setTimeout(resolve, 500));
    const last = asked.length;
    await new Promise((resolve) => setTimeout(resolve, 1_500));
    expect(asked).toHaveLength(last);
    expect(own.house.yucca.db.$client.prepare('select count(*) from feeds').pluck().get()).toBe(0);
  });

  test('a source that hangs holds up no pause, and what it says later is not written', async () => {
    let late: ServerResponse | null = null;
    own.answer = (_, response) => void (late = response);
    const { feed } = own.house.yucca.feeds.create({
      name: 'Slow',
      collection: 'plants',
      source: pollOf({ timeoutS: 60 }),
    });
    while (late === null) await new Promise((resolve) => setTimeout(resolve, 20));
    expect(own.house.yucca.feeds.pause(feed.id).state).toBe('paused');
    json(TEN)({} as IncomingMessage, late);
    await new Promise((resolve) => setTimeout(resolve, 500));
    expect(await all()).toEqual([]);
    own.answer = json(TEN);
    await own.house.yucca.feeds.resume(feed.id);
    expect((await settled(feed.id)).run).toMatchObject({ state: 'done', read: 10 });
  });

  test('a source that hangs is let go of: its feed is changed, compared and ended meanwhile', async () => {
    let asked = 0;
    own.answer = () => void asked++;
    const hangs = async (times: number): Promise<void> => {
      while (asked < times) await new Promise((resolve) => setTimeout(resolve, 20));
    };
    const { feed } = own.house.yucca.feeds.create({
      name: 'Slow',
      collection: 'plants',
      source: pollOf({ timeoutS: 600 }),
    });
    await hangs(1);
    await own.house.yucca.feeds.change(feed.id, {
      source: pollOf({ timeoutS: 600, url: `http://${own.base}/other.json` }),
    });
    await hangs(2);
    const { task, ended } = await own.house.yucca.feeds.compare(feed.id, null);
    await hangs(3);
    own.house.yucca.tasks.cancel(task.id);
    expect(await ended).toMatchObject({ state: 'cancelled', errors: [] });
    await own.house.yucca.feeds.remove(feed.id);
    expect(own.house.yucca.feeds.list(1, 10, null).total).toBe(0);
  });

  test('another schedule reads nothing anew; another address does', async () => {
    own.answer = (request, response) => {
      if (request.headers['if-none-match']) return void response.writeHead(304).end();
      json(TEN, { ETag: '"1"' })(request, response);
    };
    const feed = await connected(pollOf());
    const hourly = await own.house.yucca.feeds.change(feed.id, { source: pollOf({ everyS: 3_600 }) });
    expect(Date.parse(hourly.nextRunAt!) - Date.now()).toBeGreaterThan(3_500_000);
    expect(await run(feed)).toMatchObject({ read: 0 });
    await own.house.yucca.feeds.change(feed.id, { source: pollOf({ url: `http://${own.base}/other.json` }) });
    for (let tries = 0; (await settled(feed.id)).run?.read !== 10; tries++) {
      expect(tries).toBeLessThan(200);
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    expect(own.house.yucca.feeds.get(feed.id).run).toMatchObject({ whole: true, same: 10, written: 0 });
    await expect(own.house.yucca.feeds.change(feed.id, { source: { kind: 'webhook' } })).rejects.toThrow(
      'Make another feed',
    );
    await expect(own.house.yucca.feeds.change(feed.id, { source: pollOf({ cron: 'nonsense' }) })).rejects.toThrow(
      'cron',
    );
  });

  test('a next page elsewhere is not told the secrets', async () => {
    const told: string[] = [];
    own.answer = (request, response) => {
      told.push(String(request.headers.authorization));
      const next: Record<string, string> = request.url === '/plants.json' ? { Link: `<http://localhost:${own.base.split(':')[1]}/more>; rel="next"` } : {}; // prettier-ignore
      json(TEN.slice(0, 1), next)(request, response);
    };
    await connected(pollOf({ headers: { Authorization: 'Bearer s3cret' }, allowPrivate: [own.base, 'localhost'] }));
    expect(told).toEqual(['Bearer s3cret', 'undefined']);
  });

  test('secrets go to the host they are for, and are never told again', async () => {
    let got = '';
    own.answer = (request, response) => {
      got = String(request.headers.authorization);
      json(TEN)(request, response);
    };
    const feed = await connected(pollOf({ headers: { Authorization: 'Bearer s3cret' } }));
    expect(got).toBe('Bearer s3cret');
    expect(JSON.stringify(own.house.yucca.feeds.get(feed.id))).not.toContain('s3cret');
    expect(feed.source).toMatchObject({ headers: { Authorization: null } });
    const kept = await own.house.yucca.feeds.change(feed.id, {
      source: { ...(feed.source as object), everyS: 999 } as FeedSource,
    });
    await settled(kept.id);
    expect(got).toBe('Bearer s3cret');
    await expect(
      own.house.yucca.feeds.change(feed.id, {
        source: { ...(feed.source as object), url: 'http://elsewhere.example/' } as FeedSource,
      }),
    ).rejects.toThrow('sent again');
  });

  test('a record that cannot be stored is named and stops no other; the one before stays', async () => {
    own.answer = json([{ id: 'a', name: 'Fern' }]);
    const feed = await connected(pollOf(), [{ field: '*' }, { field: 'price', from: ['/cost'], as: 'number' }]);
    own.answer = json([{ id: 'a', name: 'New', cost: 'cheap' }, { id: 'b', name: 'Rose', cost: '3.5' }]); // prettier-ignore
    expect(await run(feed)).toMatchObject({ state: 'done', failed: 1, written: 1 });
    expect(await all()).toEqual([{ id: 'a', name: 'Fern' }, { id: 'b', name: 'Rose', price: 3.5 }]); // prettier-ignore
    const [dead] = own.house.yucca.feeds.sent.events(feed.id, 'dead', 1, 10).items;
    expect(dead).toMatchObject({
      key: 'a',
      reason: expect.stringMatching(/“price”: “cheap” cannot be read/) as string,
    });
    own.answer = json([{ id: 'a', name: 'New', cost: '1' }, { id: 'b', name: 'Rose', cost: '3.5' }]); // prettier-ignore
    await run(feed);
    expect(own.house.yucca.feeds.get(feed.id).dead).toBe(0);
  });

  test('a field that is used and changes its type is asked about before anything is written', async () => {
    own.answer = json(TEN);
    const feed = await connected(pollOf());
    await own.house.yucca.tunings.replaceDraft('plants', { search: [{ field: 'name' }], facets: [{ name: 'price', field: 'price', kind: 'numbers' }] }); // prettier-ignore
    await own.house.yucca.tunings.publish('plants', null);
    own.answer = json(TEN.map(({ price, ...rest }) => ({ ...rest, price: `£${price}`, extra: true })));
    const told = await run(feed);
    expect(told).toMatchObject({ state: 'asking', written: 0 });
    expect(told.changes).toEqual([
      { field: 'price', was: 'number', is: 'string', used: ['facet Price', 'shown on cards'] },
    ]);
    expect((await all())[1]).toMatchObject({ price: 1 });
    expect(await run(feed, { confirmed: true })).toMatchObject({ state: 'done', written: 10, changes: [{ field: 'price' }, { field: 'extra', was: null, is: 'boolean', used: [] }] }); // prettier-ignore
  });

  test('compared and repaired by what it has now', async () => {
    own.answer = json(TEN);
    const feed = await connected(pollOf());
    await own.house.yucca.records.put('plants', 'p0', { id: 'p0', name: 'Changed' }, 'replace');
    await own.house.load('plants', lines([{ id: 'extra' }]), 'application/x-ndjson');
    expect(await resultOf(own.house.yucca.feeds.compare(feed.id, null))).toMatchObject({ records: 10, same: 9, different: 1, extra: 1, missing: 0 }); // prettier-ignore
    await resultOf(
      own.house.yucca.feeds.repair(feed.id, null, { what: ['different'], asOf: Date.now(), confirmed: false }),
    );
    expect(await resultOf(own.house.yucca.feeds.compare(feed.id, null))).toMatchObject({
      same: 10,
      different: 0,
      extra: 1,
    });
  });
});
