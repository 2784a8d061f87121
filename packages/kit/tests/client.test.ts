import { createClient, ProblemError, requestFor, searchParams } from '../src/index.ts';

/** A fetch that records what it was asked and answers with one response. */
function fakeFetch(status: number, body: string) {
  const asked: { url: string; signal: AbortSignal | null | undefined }[] = [];
  const send = (async (url: string, init?: RequestInit) => {
    asked.push({ url, signal: init?.signal });
    return new Response(body, { status });
  }) as typeof fetch;
  return { send, asked };
}

test('a search is one GET with what differs from the defaults', async () => {
  const { send, asked } = fakeFetch(200, '{"total":3}');
  const client = createClient({ base: 'https://search.example', key: 'k 1', fetch: send });
  const abort = new AbortController();
  expect(
    await client.search(
      'plants',
      { q: 'snake plant', page: 1, size: 5, facets: ['*'], select: { colour: ['red, dark'] } },
      abort.signal,
    ),
  ).toEqual({ total: 3 });
  const url = new URL(asked[0]!.url);
  expect(url.pathname).toBe('/api/v1/collections/plants/search');
  expect(Object.fromEntries(url.searchParams)).toEqual({
    q: 'snake plant',
    select: '{"colour":["red, dark"]}',
    facets: '*',
    size: '5',
    key: 'k 1',
  });
  expect(asked[0]!.signal!.aborted).toBe(false);
});

test('nothing asked is nothing sent', () => {
  expect(searchParams({ q: '', page: 1, select: {}, facets: [] }).toString()).toBe('');
  expect(searchParams({ q: 'a', page: 3, fields: ['id', 'name'], version: 'draft' }).toString()).toBe(
    'q=a&page=3&fields=id%2Cname&version=draft',
  );
});

test('problem details become an error with their sentence; anything else says so', async () => {
  const problem = {
    type: 'urn:yucca:problem:invalid',
    title: 'Not valid',
    status: 422,
    detail: '/size must be <= 200',
  };
  const refused = createClient({ fetch: fakeFetch(422, JSON.stringify(problem)).send });
  await expect(refused.search('plants', {})).rejects.toMatchObject({
    name: 'ProblemError',
    message: '/size must be <= 200',
    problem,
  });
  const broken = createClient({ fetch: fakeFetch(502, '<html>').send });
  const error = await broken.search('plants', {}).catch((reason: unknown) => reason);
  expect(error).toBeInstanceOf(ProblemError);
  expect((error as ProblemError).problem.status).toBe(502);
});

test('a query becomes a request with what the page always asks for', () => {
  expect(
    requestFor({ q: 'a', select: { c: ['x'] }, sort: 'new', near: null, page: 2 }, { size: 24, facets: ['*'] }),
  ).toEqual({
    q: 'a',
    page: 2,
    sort: 'new',
    size: 24,
    facets: ['*'],
    select: { c: ['x'] },
  });
  expect(requestFor({ q: '', select: {}, sort: null, near: null, page: 1 })).toEqual({ q: '', page: 1 });
});

test('when the line is down a request is sent again, twice; an answer of the server never is', async () => {
  let calls = 0;
  const down = (until: number) =>
    (async () => {
      calls++;
      if (calls <= until) throw new TypeError('Failed to fetch');
      return new Response('{"total":4}', { status: 200 });
    }) as unknown as typeof fetch;
  expect(await createClient({ fetch: down(2) }).search('plants', {})).toEqual({ total: 4 });
  expect(calls).toBe(3);
  calls = 0;
  await expect(createClient({ fetch: down(9) }).suggest('plants', 'a', 3)).rejects.toThrow('Failed to fetch');
  expect(calls).toBe(3);
  const { send, asked } = fakeFetch(503, '{}');
  await expect(createClient({ fetch: send }).search('plants', {})).rejects.toThrow();
  expect(asked).toHaveLength(1);
});

test('completions and several searches carry the key', async () => {
  const { send, asked } = fakeFetch(200, '{"answers":[],"suggestions":[]}');
  const client = createClient({ key: 'k', fetch: send });
  await client.suggest('pl ants', 'a b', 3);
  expect(asked[0]!.url).toBe('/api/v1/collections/pl%20ants/suggest?q=a+b&size=3&key=k');
  const both = [
    { collection: 'plants', q: 'a' },
    { collection: 'guides', q: 'a' },
  ];
  await client.multiSearch(both).catch(() => {});
  expect(asked[1]!.url).toBe('/api/v1/search?key=k');
});

/** A server that answers each question with what it was asked. */
function echo() {
  const sent: { url: string; init: RequestInit; questions: unknown[] }[] = [];
  const fetch = (async (url: string, init: RequestInit = {}) => {
    const { queries } = init.body
      ? (JSON.parse(init.body as string) as { queries: { q?: string }[] })
      : { queries: [{}] };
    sent.push({ url, init, questions: queries });
    const problem = { type: 'urn:yucca:problem:invalid', title: 'Not valid', status: 422, detail: 'No.' };
    const answers = queries.map((query) => (query.q === 'bad' ? problem : { asked: query }));
    return new Response(JSON.stringify(init.body ? { answers } : answers[0]));
  }) as typeof globalThis.fetch;
  return { sent, client: createClient({ key: 'k', fetch }) };
}

test('what is asked for in one moment is one request, which needs no leave of another site', async () => {
  const { sent, client } = echo();
  const signal = new AbortController().signal;
  const [results, completions, records] = await Promise.all([
    client.search('plants', { q: 'fe', facets: ['*'] }, signal),
    client.suggest('plants', 'fe', 4, signal),
    client.multiSearch([
      { collection: 'plants', q: 'fe', size: 4 },
      { collection: 'guides', q: 'bad' },
    ]),
  ]);
  expect(sent).toHaveLength(1);
  expect(sent[0]!.url).toBe('/api/v1/search?key=k');
  // The types and headers that a browser sends without asking first.
  expect(sent[0]!.init.headers).toEqual({ 'Content-Type': 'text/plain' });
  expect(results).toEqual({ asked: { collection: 'plants', q: 'fe', facets: ['*'] } });
  expect(completions).toEqual({ asked: { collection: 'plants', suggest: { q: 'fe', size: 4 } } });
  expect(records[0]).toEqual({ asked: { collection: 'plants', q: 'fe', size: 4 } });
  expect(records[1]).toMatchObject({ status: 422, detail: 'No.' });
  // Each is known by itself afterwards.
  await client.search('plants', { q: 'fe', facets: ['*'] });
  await client.suggest('plants', 'fe', 4);
  expect(sent).toHaveLength(1);
  const [bad] = await Promise.allSettled([client.search('plants', { q: 'bad' }), client.search('plants', { q: 'b' })]);
  expect(bad).toMatchObject({ status: 'rejected', reason: { name: 'ProblemError', message: 'No.' } });
});

test('more than fit into one request are several; one alone is a plain address', async () => {
  const { sent, client } = echo();
  await Promise.all(Array.from({ length: 12 }, (_, page) => client.search('plants', { q: 'a', page })));
  expect(sent.map(({ questions }) => questions.length)).toEqual([10, 2]);
  await client.search('plants', { q: 'b' });
  expect(sent[2]!.url).toBe('/api/v1/collections/plants/search?q=b&key=k');
  expect(sent[2]!.init.method).toBeUndefined();
});

test('who gives up is not waited for; a request nobody waits for is cancelled', async () => {
  const signals: AbortSignal[] = [];
  const fetch = ((_: string, init?: RequestInit) => {
    signals.push(init!.signal!);
    return new Promise((_resolve, reject) =>
      init!.signal!.addEventListener('abort', () => reject(init!.signal!.reason as Error)),
    );
  }) as typeof globalThis.fetch;
  const client = createClient({ fetch });
  const [one, two, early] = [new AbortController(), new AbortController(), new AbortController()];
  const asked = [
    client.search('plants', { q: 'a' }, one.signal),
    client.suggest('plants', 'a', 3, two.signal),
    client.search('plants', { q: 'b' }, early.signal),
  ].map((promise) => promise.catch((error: Error) => error.name));
  early.abort();
  await new Promise((resolve) => setTimeout(resolve, 0));
  one.abort();
  expect(await asked[0]).toBe('AbortError');
  expect(signals.map(({ aborted }) => aborted)).toEqual([false]);
  two.abort();
  expect(await Promise.all(asked)).toEqual(['AbortError', 'AbortError', 'AbortError']);
  expect(signals.map(({ aborted }) => aborted)).toEqual([true]);
});

test('values of a facet are looked for within all that decides what is found', async () => {
  const { send, asked } = fakeFetch(200, '{"values":[]}');
  const within = {
    q: 'rose',
    select: { colour: ['red'] },
    filter: 'price > 3',
    near: { lat: 50, lng: 8.5, withinM: 900 },
    tags: ['phone'],
    version: 'draft' as const,
    on: '2026-05-01',
    facets: ['*'],
    page: 2,
    sort: 'price',
  };
  await createClient({ fetch: send }).facetValues('plants', 'maker', 'or', within);
  expect(Object.fromEntries(new URL(asked[0]!.url, 'http://x').searchParams)).toEqual({
    q: 'or',
    query: 'rose',
    select: '{"colour":["red"]}',
    filter: 'price > 3',
    near: '50,8.5',
    withinM: '900',
    tags: 'phone',
    version: 'draft',
    on: '2026-05-01',
  });
});

test('an answer that does not come in time, or stops half-way, is given up; so is what the caller gives up', async () => {
  const hung = ((_: string, init?: RequestInit) =>
    new Promise<Response>((_resolve, reject) =>
      init!.signal!.addEventListener('abort', () => reject(init!.signal!.reason as Error)),
    )) as typeof fetch;
  const client = createClient({ fetch: hung, timeoutMs: 30 });
  await expect(client.search('plants', {})).rejects.toMatchObject({ name: 'TimeoutError' });
  const halfway = (async (_: string, init?: RequestInit) =>
    ({
      ok: true,
      status: 200,
      headers: new Headers(),
      text: () => hung('', init),
    }) as unknown as Response) as typeof fetch;
  await expect(createClient({ fetch: halfway, timeoutMs: 30 }).search('plants', {})).rejects.toMatchObject({
    name: 'TimeoutError',
  });
  const abort = new AbortController();
  const given = client.search('plants', {}, abort.signal);
  abort.abort();
  await expect(given).rejects.toMatchObject({ name: 'AbortError' });
});

test('when the server wants to be asked again is told with the error', async () => {
  const busy = (retryAfter: string) =>
    createClient({ fetch: async () => new Response('{}', { status: 429, headers: { 'Retry-After': retryAfter } }) });
  const said = async (retryAfter: string): Promise<number | null> =>
    (
      (await busy(retryAfter)
        .search('plants', {})
        .catch((error: unknown) => error)) as ProblemError
    ).retryAfterS;
  expect(await said('53')).toBe(53);
  // Yucca says it in seconds; what else a proxy may say is as good as nothing.
  expect(await said(new Date(Date.now() + 20_000).toUTCString())).toBeNull();
  expect(await said('soon')).toBeNull();
});
