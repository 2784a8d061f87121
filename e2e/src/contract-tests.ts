import type { Key, Page, ProblemJson, SearchAnswer, Task } from '@yucca/contract';
import { loadPlants, Server, somePlants, type WayIn } from './server';

/** What the HTTP contract promises, held against one of the ways in: both answer by the same functions. */
export function contractTests(way: WayIn): void {
  let server: Server;
  beforeAll(async () => {
    server = await new Server().start({}, way);
    await loadPlants(server, 'plants');
  });
  afterAll(() => server.leave());

  const bare = (route: string, init?: RequestInit): Promise<Response> => fetch(`${server.base}/api/v1${route}`, init);

  test('health needs no key', async () => {
    expect(await (await bare('/health')).json()).toMatchObject({ status: 'ok', collections: 1 });
  });

  test.each([
    ['GET', '/collections', {}, 401],
    ['GET', '/collections', { Authorization: 'Bearer wrong' }, 401],
    ['GET', '/collections', { Authorization: 'Basic abc' }, 401],
    ['GET', '/collections/plants/search?key=nope', {}, 401],
    ['GET', '/collections', { 'Sec-Fetch-Site': 'cross-site' }, 401],
    ['GET', '/nothing/here', {}, 404],
    ['DELETE', '/health', {}, 405],
  ])('%s %s with %j is a problem %i', async (method, route, headers, status) => {
    const response = await bare(route, { method, headers: headers as Record<string, string> });
    const problem = (await response.json()) as ProblemJson;
    expect(response.status).toBe(status);
    expect(response.headers.get('content-type')).toBe('application/problem+json');
    expect(problem).toMatchObject({ status, type: expect.stringContaining('urn:yucca:problem:') as string });
    expect(problem.detail.length).toBeGreaterThan(10);
  });

  test('a page of another site cannot use the open studio, nor can a name that only points here', async () => {
    const studio = { 'Sec-Fetch-Site': 'same-origin' };
    expect((await bare('/collections', { headers: studio })).status).toBe(200);
    expect((await bare('/collections', { headers: { 'Sec-Fetch-Site': 'same-site' } })).status).toBe(401);
  });

  test('the key of the search pages can search and do nothing else', async () => {
    const page = await (await fetch(`${server.base}/s/plants`)).text();
    const key = /yk_[\w-]+/.exec(page)![0];
    const headers = { Authorization: `Bearer ${key}` };
    expect((await bare('/collections/plants/search?q=rose', { headers })).status).toBe(200);
    const refused = [
      ['GET', '/collections'],
      ['GET', '/collections/plants'],
      ['GET', '/collections/plants/records'],
      ['GET', '/collections/plants/records/P-001'],
      ['DELETE', '/collections/plants'],
      ['PUT', '/collections/plants/records/x'],
      ['POST', '/collections/plants/records'],
      ['GET', '/collections/plants/tuning'],
      ['PUT', '/collections/plants/tuning/draft'],
      ['GET', '/tasks'],
      ['GET', '/collections/plants/search?version=draft'],
    ];
    for (const [method, route] of refused)
      expect([route, (await bare(route!, { method: method!, headers })).status]).toEqual([route, 403]);
  });

  test('keys are made with rights, shown once, and worthless when deleted', async () => {
    const made = await server.json<{ key: Key; secret: string }>('POST', '/keys', {
      label: 'Shop',
      rights: ['search'],
    });
    const headers = { Authorization: `Bearer ${made.secret}` };
    expect((await bare('/collections/plants/search', { headers })).status).toBe(200);
    expect((await bare('/collections/plants/records', { headers })).status).toBe(403);
    const list = await server.json<Page<Key>>('GET', '/keys');
    expect(list.items).toContainEqual({ ...made.key, lastUsedAt: expect.any(String) as string });
    expect(JSON.stringify(list)).not.toContain(made.secret);
    expect((await server.call('DELETE', `/keys/${made.key.id}`)).status).toBe(204);
    expect((await bare('/collections/plants/search', { headers })).status).toBe(401);
    expect((await server.call('POST', '/keys', { label: '', rights: ['fly'] })).status).toBe(422);
    const pageKey = list.items.find(({ label }) => label === 'Search pages')!;
    expect((await server.call('DELETE', `/keys/${pageKey.id}`)).status).toBe(409);
  });

  test('search by GET and by POST is one search; the headers carry times, an ETag and CORS', async () => {
    const get = await server.call(
      'GET',
      '/collections/plants/search?q=lavendar&size=5&facets=colour&select=%7B%22colour%22%3A%5B%22white%22%5D%7D',
    );
    const byGet = (await get.json()) as SearchAnswer;
    const byPost = await server.json<SearchAnswer>('POST', '/collections/plants/search', {
      q: 'lavendar',
      size: 5,
      facets: ['colour'],
      select: { colour: ['white'] },
    });
    expect({ ...byGet, queryId: '', timing: null }).toEqual({ ...byPost, queryId: '', timing: null });
    expect(byGet.total).toBe(10);
    expect(byGet.results[0]!.marks).toEqual({ '/name': [[8, 16]] });
    expect(get.headers.get('server-timing')).toMatch(/^engine;dur=[\d.]+, total;dur=[\d.]+$/);
    expect(get.headers.get('access-control-allow-origin')).toBe('*');
    const again = await server.call('GET', '/collections/plants/search?q=a', undefined);
    const etag = again.headers.get('etag')!;
    expect(
      (await server.call('GET', '/collections/plants/search?q=a', undefined, { 'If-None-Match': etag })).status,
    ).toBe(304);
    await server.call('PUT', '/collections/plants/records/etag', { name: 'x' });
    expect(
      (await server.call('GET', '/collections/plants/search?q=a', undefined, { 'If-None-Match': etag })).status,
    ).toBe(200);
    await server.call('DELETE', '/collections/plants/records/etag');
    const preflight = await bare('/collections/plants/search', { method: 'OPTIONS' });
    expect([preflight.status, preflight.headers.get('access-control-max-age')]).toEqual([204, '86400']);
  });

  test.each([
    ['size=1000', '/size'],
    ['size=-1', '/size'],
    ['size=ten', '/size'],
    ['page=0', '/page'],
    ['page=200&size=100', '/page'],
    ['facets=colr', '/facets/0'],
    ['select=nonsense', '/select'],
    ['select=%7B%22colour%22%3A%22red%22%7D', '/select/colour'],
    ['colour=red', '/colour'],
    ['version=old', '/version'],
    [`q=${'x'.repeat(600)}`, '/q'],
  ])('a faulty search ?%s is refused with the pointer %s', async (query, pointer) => {
    const response = await server.call('GET', `/collections/plants/search?${query}`);
    expect(response.status).toBe(422);
    expect(((await response.json()) as ProblemJson).errors!.map((part) => part.pointer)).toContain(pointer);
  });

  test.each(['__proto__', 'constructor', 'e/4 ?&#%', '..', '.', 'ä 木', '%2F', 'a\\b'])(
    'a record with the key %j is written, read, patched and deleted',
    async (key) => {
      const route = `/collections/plants/records/${encodeURIComponent(key).replace(/\./g, '%2E')}`;
      const expected = key === '.' || key === '..' ? [404, 405] : [201];
      const created = await server.call('PUT', route, { name: 'odd one' });
      expect(expected).toContain(created.status);
      // A dot segment is taken out of any address by the client itself (RFC 3986), so such keys are reached by search
      // only.
      if (created.status !== 201) return;
      expect(await server.json('GET', route)).toEqual({ record: { id: key, name: 'odd one' } });
      await server.call('PATCH', route, { name: null, more: 1 }, { 'Content-Type': 'application/merge-patch+json' });
      expect(await server.json('GET', route)).toEqual({ record: { id: key, more: 1 } });
      expect((await server.call('DELETE', route)).status).toBe(204);
      expect((await server.call('GET', route)).status).toBe(404);
    },
  );

  test('bodies that are no JSON, too large or of another type', async () => {
    const post = (body: string, type: string) => server.call('POST', '/collections', body, { 'Content-Type': type });
    expect((await post('{', 'application/json')).status).toBe(400);
    expect((await post('{}', 'text/plain')).status).toBe(415);
    expect((await post('{"name":"Bad Name"}', 'application/json')).status).toBe(422);
    expect((await post('{"name":"plants"}', 'application/json')).status).toBe(409);
    expect((await post(`"${'x'.repeat(5_000_000)}"`, 'application/json')).status).toBe(413);
    expect(
      (await server.call('POST', '/collections/plants/records', 'x', { 'Content-Type': 'application/pdf' })).status,
    ).toBe(415);
    expect((await server.call('PUT', '/collections/plants/records/a', { id: 'b' })).status).toBe(422);
    expect((await server.call('PATCH', '/collections/plants/records/absent', {})).status).toBe(404);
  });

  test('a load answers 202 with a task that can be watched to its end', async () => {
    const body = somePlants(3000)
      .map((plant) => JSON.stringify(plant))
      .join('\n');
    await server.call('POST', '/collections', { name: 'watched' });
    const response = await server.call('POST', '/collections/watched/records', body, {
      'Content-Type': 'application/jsonl',
    });
    expect(response.status).toBe(202);
    const { task } = (await response.json()) as { task: Task };
    const events = await (await server.call('GET', `/tasks/${task.id}/events`)).text();
    const last = events.trim().split('\n\n').at(-1)!;
    expect(last).toMatch(/^event: end\ndata: /);
    expect(JSON.parse(last.slice(last.indexOf('{')))).toMatchObject({ state: 'done', done: 3000 });
    expect(await server.json('GET', `/tasks/${task.id}`)).toMatchObject({ task: { state: 'done' } });
    expect((await server.json<SearchAnswer>('GET', '/collections/watched/search')).total).toBe(3000);
    const listed = await server.json<Page<object>>('GET', '/collections/watched/records?page=2&size=50&fields=id');
    expect([listed.total, listed.pages, listed.items[0]]).toEqual([3000, 60, { id: 'P-051' }]);
    expect(
      await server.json('POST', '/collections/watched/records/delete', { ids: ['P-001', 'P-002', 'none'] }),
    ).toEqual({ deleted: 2 });
    expect((await server.json<SearchAnswer>('GET', '/collections/watched/search')).total).toBe(2998);
  });

  test('tuning over HTTP: draft, publish, history', async () => {
    await loadPlants(server, 'tuned');
    const bad = await server.call('PUT', '/collections/tuned/tuning/draft', { search: [{ fields: 'x' }] });
    expect(((await bad.json()) as ProblemJson).errors!.map(({ pointer }) => pointer)).toEqual(
      expect.arrayContaining(['/search/0/field', '/search/0/fields']),
    );
    const careOnly = { search: [{ field: 'care' }] };
    expect((await server.call('PUT', '/collections/tuned/tuning/draft?wait=true', careOnly)).status).toBe(200);
    expect(await server.json('GET', '/collections/tuned')).toMatchObject({ draftChanged: true });
    expect((await server.json<SearchAnswer>('GET', '/collections/tuned/search?q=lavender')).total).toBe(20);
    const { version } = await server.json<{ version: number }>('POST', '/collections/tuned/tuning/publish', {
      note: 'care only',
    });
    expect((await server.json<SearchAnswer>('GET', '/collections/tuned/search?q=lavender')).total).toBe(0);
    expect(await server.json('GET', '/collections/tuned/tuning/versions')).toMatchObject({
      items: [{ version, note: 'care only', live: true }, {}, {}],
    });
    expect(await server.json('GET', `/collections/tuned/tuning?version=${version}`)).toEqual({
      search: [{ field: 'care' }],
    });
    expect((await server.call('GET', '/collections/tuned/tuning?version=99')).status).toBe(404);
  });

  test('files outside the folder of pictures cannot be reached', async () => {
    for (const trick of [
      '/files/..%2Fyucca.sqlite',
      '/files/%2e%2e/yucca.sqlite',
      '/files/../yucca.sqlite',
      '/files/x.svg',
    ]) {
      expect((await fetch(server.base + trick)).status).toBe(404);
    }
  });
}
