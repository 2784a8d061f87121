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
  expect(asked[0]!.signal).toBe(abort.signal);
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
      return new Response('{"answers":[]}', { status: 200 });
    }) as unknown as typeof fetch;
  expect(await createClient({ fetch: down(2) }).multiSearch([])).toEqual([]);
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
  await client.multiSearch([{ collection: 'plants', q: 'a' }]);
  expect(asked[1]!.url).toBe('/api/v1/search');
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
