/** A data folder of a Yucca from before keys were sealed (fixtures/make-data-folder.mjs) is taken over without loss. */
import type { Collection, Page, SearchAnswer, TuningDocument } from '@yucca/contract';
import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { Server } from '../src/server';

const FIXTURES = path.join(__dirname, '../fixtures');
const expected = JSON.parse(readFileSync(path.join(FIXTURES, 'before-sealed-keys.json'), 'utf8')) as {
  key: { id: string; secret: string };
  ids: string[];
  total: number;
  facets: object;
};
const server = new Server();
beforeAll(async () => {
  execFileSync('tar', ['xzf', path.join(FIXTURES, 'before-sealed-keys.tar.gz'), '-C', server.dataDir]);
  await server.start();
  await server.ready();
});
afterAll(() => server.leave());

test('records, tuning, drafts, judgements, pages and events are there', async () => {
  expect(await server.api<Collection>('GET', '/collections/plants')).toMatchObject({ records: 1499, liveVersion: 3, draftChanged: true, judged: 1 }); // prettier-ignore
  const text = await (await server.call('GET', '/collections/plants/records?format=ndjson')).text();
  expect(text.split('\n').filter(Boolean)).toHaveLength(1499);
  expect(text).toContain('{"id":"P-7","name":"written last"}');
  expect(await server.api<TuningDocument>('GET', '/collections/plants/tuning?version=draft')).toMatchObject({
    signalShare: 0.4,
  });
  expect((await server.api<Page<{ slug: string }>>('GET', '/interfaces')).items.map(({ slug }) => slug)).toEqual([
    'garden',
  ]);
  expect((await fetch(`${server.base}/s/garden?q=rose`)).status).toBe(200);
});

test('a search finds the same, in the same order, with the same counts', async () => {
  const found = await server.api<SearchAnswer>('POST', '/collections/plants/search', {
    q: 'lavender',
    facets: ['*'],
    size: 50,
  });
  expect([found.total, found.results.map(({ id }) => id), found.facets]).toEqual([
    expected.total,
    expected.ids,
    expected.facets,
  ]);
});

test('its keys go on working, and what would sign as them is nowhere in the folder', async () => {
  const response = await fetch(`${server.base}/api/v1/collections/plants/search?q=rose`, {
    headers: { Authorization: `Bearer ${expected.key.secret}` },
  });
  expect(response.status).toBe(200);
  const plainHash = createHash('sha256').update(expected.key.secret).digest('hex');
  await server.stop();
  for (const name of readdirSync(server.dataDir).filter((one) => one.startsWith('yucca.sqlite')))
    expect([name, readFileSync(path.join(server.dataDir, name)).includes(plainHash)]).toEqual([name, false]);
});
