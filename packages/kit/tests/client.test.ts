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
  expect(requestFor({ q: 'a', select: { c: ['x'] }, sort: 'new', page: 2 }, { size: 24, facets: ['*'] })).toEqual({
    q: 'a',
    page: 2,
    sort: 'new',
    size: 24,
    facets: ['*'],
    select: { c: ['x'] },
  });
  expect(requestFor({ q: '', select: {}, sort: null, page: 1 })).toEqual({ q: '', page: 1 });
});
