import type { FacetValuesAnswer, Profile, SearchAnswer, SuggestAnswer } from '@yucca/contract';
import { createHmac } from 'node:crypto';
import { Server } from '../src/server';

let server: Server;

/** Records of two tenants; every word and value of the hidden one begins with "zz". */
const RECORDS = [
  ...Array.from({ length: 12 }, (_, i) => ({
    id: `open-${i}`,
    tenant: 'open',
    name: `rose number ${i}`,
    colour: ['red', 'white'][i % 2],
    price: i,
  })),
  ...Array.from({ length: 12 }, (_, i) => ({
    id: `zz-${i}`,
    tenant: 'zzhidden',
    name: `zzsecret rose ${i}`,
    colour: 'zzviolet',
    price: 1000 + i,
    zzfield: 'zzvalue',
  })),
];

beforeAll(async () => {
  server = await new Server().start();
  await server.api('POST', '/collections', { name: 'plants' });
  await server.api('POST', '/collections', { name: 'guides' });
  await server.api('PUT', '/collections/plants/tuning/draft', {
    facets: [
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
    ],
    placements: [{ name: 'pins', when: { query: 'rose' }, pin: [{ id: 'zz-1', at: 1 }] }],
  });
  await server.api('POST', '/collections/plants/tuning/publish', {});
  await server.api('POST', '/collections/plants/records?wait=true', RECORDS);
});
afterAll(() => server.leave());

const call = (route: string, secret: string, init: RequestInit = {}): Promise<Response> =>
  fetch(`${server.base}/api/v1${route}`, {
    ...init,
    headers: { Authorization: `Bearer ${secret}`, ...(init.headers as Record<string, string>) },
  });

async function makeKey(wanted: object): Promise<{ id: string; secret: string }> {
  const { key, secret } = await server.api<{ key: { id: string }; secret: string }>('POST', '/keys', wanted);
  return { id: key.id, secret };
}

/** A token as any JWT library writes it. */
function token(claims: object, { id, secret }: { id: string; secret: string }): string {
  const part = (value: object): string => Buffer.from(JSON.stringify(value)).toString('base64url');
  const body = `${part({ alg: 'HS256', typ: 'JWT', kid: id })}.${part(claims)}`;
  return `${body}.${createHmac('sha256', secret).update(body).digest('base64url')}`;
}

describe('a forced filter cannot be got round', () => {
  let secret = '';
  beforeAll(async () => {
    ({ secret } = await makeKey({ label: 'open only', rights: ['read'], filter: "tenant = 'open'" }));
  });
  const ask = async (route: string, init: RequestInit = {}): Promise<string> =>
    (await call(route, secret, init)).text();
  const search = (body: object): Promise<string> =>
    ask('/collections/plants/search', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ facets: ['*'], ...body }),
    });

  test.each<[string, () => Promise<string>]>([
    ['everything', () => search({})],
    ['a word of a hidden record', () => search({ q: 'zzsecret' })],
    ['the beginning of one', () => search({ q: 'zzsec' })],
    ['one with a typo', () => search({ q: 'zzsecrte' })],
    ['a shared word', () => search({ q: 'rose', explain: true })],
    ['a filter that asks for the others', () => search({ filter: "tenant = 'zzhidden'" })],
    ['a filter that is always true', () => search({ filter: "1 = 1 OR tenant <> 'open'" })],
    ['a filter that closes a parenthesis', () => search({ filter: "price > 0) OR (tenant <> 'open'" })],
    ['a filter with NOT', () => search({ filter: "NOT (tenant = 'open')" })],
    // The choice itself comes back, as something that counts nothing.
    [
      'a choice of a hidden value',
      async () => (await search({ select: { colour: ['zzviolet'] } })).replaceAll('"zzviolet"', '""'),
    ],
    ['a range only they have', () => search({ select: { price: { min: 900 } } })],
    ['sorting', () => search({ sort: 'relevance', size: 200 })],
    ['the last page', () => search({ page: 2, size: 12 })],
    ['the draft', () => search({ version: 'draft' })],
    ['an address', () => ask('/collections/plants/search?q=zzsecret&facets=*')],
    ['completions', () => ask('/collections/plants/suggest?q=zz')],
    ['values of a facet', () => ask('/collections/plants/facets/colour?q=zz')],
    ['all values of a facet', () => ask('/collections/plants/facets/colour')],
    [
      'several searches',
      () =>
        ask('/search', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ queries: [{ collection: 'plants', q: 'zzsecret', facets: ['*'] }] }),
        }),
    ],
    ['a list of records', () => ask('/collections/plants/records?size=200')],
    [
      'a list with a filter',
      () => ask(`/collections/plants/records?filter=${encodeURIComponent("tenant='x') OR (1=1")}`),
    ],
    ['an export', () => ask('/collections/plants/records?format=ndjson')],
    ['an export as a table', () => ask('/collections/plants/records?format=csv')],
    ['the profile', () => ask('/collections/plants/profile')],
    ['one record', () => ask('/collections/plants/records/zz-1').then((text) => text.replaceAll('zz-1', ''))],
  ])('%s', async (_, run) => {
    const text = await run();
    const said = JSON.stringify(
      JSON.parse(text.startsWith('{') && !text.includes('}\n{') ? text : JSON.stringify(text)),
      // What was asked comes back as it was asked.
      (name, value: unknown) => (name === 'query' || name === 'q' || name === 'text' || name === 'detail' ? '' : value),
    );
    expect(said).not.toContain('zz');
    expect(said).not.toMatch(/"total":(13|1[4-9]|2\d)\b/);
  });

  test('what it may see is all there', async () => {
    const found = JSON.parse(await search({ q: 'rose', size: 50 })) as SearchAnswer;
    expect(found.total).toBe(12);
    const values = JSON.parse(await ask('/collections/plants/facets/colour')) as FacetValuesAnswer;
    expect(values.values.map(({ value, count }) => [value, count])).toEqual([
      ['red', 6],
      ['white', 6],
    ]);
    expect(
      (JSON.parse(await ask('/collections/plants/suggest?q=ro')) as SuggestAnswer).suggestions.length,
    ).toBeGreaterThan(0);
    expect((JSON.parse(await ask('/collections/plants/profile')) as Profile).records).toBe(12);
    expect((await call('/collections/plants/records/open-1', secret)).status).toBe(200);
    expect((await call('/collections/plants/records/zz-1', secret)).status).toBe(404);
  });

  test('an answer kept for one key is not given to another', async () => {
    const admin = await call('/collections/plants/search?q=rose', server.adminKey);
    const etag = admin.headers.get('etag')!;
    const again = (key: string): Promise<Response> =>
      call('/collections/plants/search?q=rose', key, { headers: { 'If-None-Match': etag } });
    expect((await again(server.adminKey)).status).toBe(304);
    expect((await again(secret)).status).toBe(200);
    expect(admin.headers.get('vary')).toContain('Authorization');
  });
});

describe('limits', () => {
  test('a key reaches its collections and no other, wherever they are named', async () => {
    const { secret } = await makeKey({ label: 'guides', rights: ['read', 'write'], collections: ['guides'] });
    const statuses = await Promise.all(
      [
        '/collections/guides/search',
        '/collections/guides/records',
        '/collections/plants/search',
        '/collections/plants/records',
        '/collections/plants/profile',
        '/collections/nowhere/search',
        '/collections/plants/tuning',
      ].map(async (route) => (await call(route, secret)).status),
    );
    expect(statuses).toEqual([200, 200, 403, 403, 403, 403, 403]);
    const several = await call('/search', secret, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ queries: [{ collection: 'plants' }, { collection: 'guides' }] }),
    });
    expect(await several.json()).toMatchObject({ answers: [{ status: 403 }, { total: 0 }] });
    const { items } = await server.api<{ items: { id: string; collection: string }[] }>('GET', '/tasks');
    const load = items.find(({ collection }) => collection === 'plants')!;
    expect((await call(`/tasks/${load.id}`, secret)).status).toBe(403);
  });

  test('an administrator of one collection neither sees the others nor makes keys', async () => {
    const { secret } = await makeKey({ label: 'guides admin', rights: ['admin'], collections: ['guides'] });
    const list = (await (await call('/collections', secret)).json()) as { items: { name: string }[] };
    expect(list.items.map(({ name }) => name)).toEqual(['guides']);
    expect((await call('/keys', secret)).status).toBe(403);
    const post = { method: 'POST', headers: { 'Content-Type': 'application/json' } };
    expect((await call('/keys', secret, { ...post, body: '{"label":"x","rights":["admin"]}' })).status).toBe(403);
    expect((await call('/collections', secret, { ...post, body: '{"name":"other"}' })).status).toBe(403);
    expect((await call('/load-files', secret)).status).toBe(403);
  });

  test('origins: pages of other sites are refused, and told so', async () => {
    const { secret } = await makeKey({ label: 'shop', rights: ['search'], origins: ['https://shop.example'] });
    const from = (origin: string): Promise<Response> =>
      call('/collections/plants/search', secret, { headers: { Origin: origin } });
    const mine = await from('https://shop.example');
    expect([mine.status, mine.headers.get('access-control-allow-origin')]).toEqual([200, 'https://shop.example']);
    expect(mine.headers.get('vary')).toContain('Origin');
    const other = await from('https://other.example');
    expect(other.status).toBe(403);
    expect(((await other.json()) as { detail: string }).detail).toContain('https://other.example');
    const preflight = await fetch(`${server.base}/api/v1/collections/plants/search`, { method: 'OPTIONS' });
    expect([preflight.status, preflight.headers.get('access-control-max-age')]).toEqual([204, '86400']);
  });

  test('a rate: told in every answer, and 429 with the time to wait past it', async () => {
    const { secret } = await makeKey({ label: 'slow', rights: ['search'], perMinute: 3 });
    const answers = [];
    for (let i = 0; i < 4; i++) answers.push(await call('/collections/plants/search?size=0', secret));
    expect(answers.map(({ status }) => status)).toEqual([200, 200, 200, 429]);
    expect(answers[0]!.headers.get('ratelimit')).toMatch(/^"minute";r=2;t=\d+$/);
    expect(answers[0]!.headers.get('ratelimit-policy')).toBe('"minute";q=3;w=60');
    expect(Number(answers[3]!.headers.get('retry-after'))).toBeGreaterThan(0);
  });

  test('a scoped token narrows its key', async () => {
    const key = await makeKey({ label: 'site', rights: ['search'] });
    const scoped = token({ filter: 'price < 3', collections: ['plants'], exp: Math.ceil(Date.now() / 1000) + 60 }, key);
    expect(await (await call('/collections/plants/search?size=0', scoped)).json()).toMatchObject({ total: 3 });
    expect(await (await call(`/collections/plants/search?size=0&filter=price>1`, scoped)).json()).toMatchObject({
      total: 1,
    });
    expect((await call('/collections/guides/search', scoped)).status).toBe(403);
    expect((await call('/collections/plants/records', scoped)).status).toBe(403);
    const late = token({ exp: Math.floor(Date.now() / 1000) - 5 }, key);
    expect((await call('/collections/plants/search', late)).status).toBe(401);
    expect((await call('/collections/plants/search', `${scoped}x`)).status).toBe(401);
    const inAddress = await fetch(`${server.base}/api/v1/collections/plants/search?size=0&key=${scoped}`);
    expect(await inAddress.json()).toMatchObject({ total: 3 });
  });
});
