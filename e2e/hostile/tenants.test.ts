/**
 * Records that move between tenants while keys with a forced filter look: nobody ever sees what is not theirs just
 * then.
 */
import { Server } from '../src/server';

let server: Server;
const secrets: Record<string, string> = {};
const RECORDS = 60;
/** As many of each are waited for, however fast the machine is, at least for so long. */
const MOVES = 100;
const LOOKED = 400;
const FOR_MS = 6_000;

beforeAll(async () => {
  server = await new Server().start();
  await server.api('POST', '/collections', { name: 'goods' });
  const records = Array.from({ length: RECORDS }, (_, i) => ({
    id: `r${i}`,
    tenant: 'a',
    mark: 'for a',
    name: `thing ${i}`,
  }));
  await server.api('POST', '/collections/goods/records?wait=true', records);
  for (const tenant of ['a', 'b']) {
    const made = await server.api<{ secret: string }>('POST', '/keys', {
      label: tenant,
      rights: ['read'],
      filter: `tenant = '${tenant}'`,
    });
    secrets[tenant] = made.secret;
  }
});
afterAll(() => server.leave());

const ask = (tenant: string, route: string): Promise<Response> =>
  fetch(`${server.base}/api/v1/collections/goods${route}`, { headers: { Authorization: `Bearer ${secrets[tenant]}` } });

/** Every way to look, and what of an answer belongs to another tenant. */
const LOOKS = ['/records?size=200', '/records?format=ndjson', '/records?format=csv', '/records/r7', '/record?key=r8', '/search?size=200', '/search?q=thing&size=200', '/profile', '/records?size=200&filter=name%20IS%20NOT%20NULL']; // prettier-ignore

test('lists, exports, profiles, searches and single reads', async () => {
  const end = Date.now() + FOR_MS;
  let moved = 0;
  let looked = 0;
  const goesOn = (): boolean => Date.now() < end || moved < MOVES || looked < LOOKED;
  const writer = (async () => {
    for (let i = 0; goesOn(); i++) {
      const tenant = i % 2 === 0 ? 'b' : 'a';
      await server.call('PUT', `/collections/goods/records/r${i % RECORDS}`, {
        tenant,
        mark: `for ${tenant}`,
        name: `thing ${i}`,
      });
      moved++;
    }
  })();
  const seen: string[] = [];
  const readers = ['a', 'b'].flatMap((tenant) =>
    LOOKS.map(async (route) => {
      while (goesOn()) {
        const text = await (await ask(tenant, route)).text();
        looked++;
        const other = tenant === 'a' ? 'b' : 'a';
        if (text.includes(`for ${other}`)) seen.push(`${tenant} ${route}`);
      }
    }),
  );
  await Promise.all([writer, ...readers]);
  expect(seen).toEqual([]);
});

test('a misspelt field is answered with no name that stands in hidden records alone', async () => {
  await server.api('PUT', '/collections/goods/records/hidden', { tenant: 'c', zzsecret: 1, name: 'x' });
  for (const route of [
    '/search?filter=zzsecre=1',
    '/records?filter=zzsecre=1',
    '/records?format=csv&filter=zzsecre=1',
  ]) {
    const text = await (await ask('a', route)).text();
    expect(text).toContain('unknown field');
    expect(text).not.toContain('zzsecret');
  }
  const open = await (await server.call('GET', '/collections/goods/search?filter=zzsecre=1')).text();
  expect(open).toContain('zzsecret');
});

test('placements name records, so a key with a filter does not read them', async () => {
  await server.api('PUT', '/collections/goods/tuning/draft', { placements: [{ name: 'pins', when: { query: 'x' }, pin: [{ id: 'hidden', at: 1 }] }] }); // prettier-ignore
  await server.api('POST', '/collections/goods/tuning/publish', {});
  for (const route of ['/tuning', '/tuning?version=2', '/settings']) {
    expect(await (await ask('a', route)).text()).not.toContain('hidden');
    expect(await (await server.call('GET', `/collections/goods${route}`)).text()).toContain('hidden');
  }
});
