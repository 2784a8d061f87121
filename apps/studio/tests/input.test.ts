import { unlimited } from '../src/server/keys/caller';
import { callerOf } from '../src/http/caller';
import { bodyOf, isTrue, mediaType, oneOf, readJson, searchFromUrl, wholeNumber } from '../src/http/input';
import { isLoopbackHost, readConfig } from '../src/server/config';
import { Failure, isFailure } from '../src/server/failure';
import type { Runtime } from '../src/server/runtime';

const url = (query: string): URL => new URL(`http://127.0.0.1/x${query}`);
const post = (body: BodyInit, type?: string): Request =>
  new Request('http://127.0.0.1/x', { method: 'POST', body, headers: type ? { 'Content-Type': type } : {} });

test('whole numbers within bounds, or a failure with the pointer', () => {
  expect(wholeNumber(url(''), 'size', 20, 0, 200)).toBe(20);
  expect(wholeNumber(url('?size=0'), 'size', 20, 0, 200)).toBe(0);
  for (const text of ['-1', '201', '1.5', '1e2', '', 'NaN', '0x10', '9'.repeat(40)]) {
    expect(() => wholeNumber(url(`?size=${text}`), 'size', 20, 0, 200)).toThrow(
      expect.objectContaining({ parts: [expect.objectContaining({ pointer: '/size' })] }) as Error,
    );
  }
});

test('one of some words', () => {
  expect(oneOf(url('?mode=merge'), 'mode', ['replace', 'merge'], 'replace')).toBe('merge');
  expect(() => oneOf(url('?mode=MERGE'), 'mode', ['replace', 'merge'], 'replace')).toThrow(Failure);
  expect(isTrue(url('?wait=true'), 'wait')).toBe(true);
  expect(() => isTrue(url('?wait=1'), 'wait')).toThrow('true, false');
});

test('a search request is read from a query string', () => {
  expect(
    searchFromUrl(url('?q=a%20b&page=2&size=x&facets=a,b&fields=&select={"c":["d"]}&key=secret&__proto__=x')),
  ).toEqual(
    JSON.parse('{"q":"a b","page":2,"size":"x","facets":["a","b"],"fields":[],"select":{"c":["d"]},"__proto__":"x"}'),
  );
});

test('JSON bodies: type, syntax and size', async () => {
  expect(await readJson(post('{"a":1}', 'application/json; charset=utf-8'))).toEqual({ a: 1 });
  await expect(readJson(post('{"a"', 'application/json'))).rejects.toMatchObject({ code: 'unreadable' });
  await expect(readJson(post('{}', 'text/plain'))).rejects.toMatchObject({ code: 'unsupported-type' });
  await expect(readJson(post(`"${'x'.repeat(4_200_000)}"`, 'application/json'))).rejects.toMatchObject({
    code: 'too-large',
  });
  expect(mediaType(post('x', 'TEXT/CSV; header=present'))).toBe('text/csv');
});

test('what is left of a body is read when nobody wants it any more', async () => {
  let pulled = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      if (pulled++ < 10) controller.enqueue(new Uint8Array(10));
      else controller.close();
    },
  });
  const request = new Request('http://127.0.0.1/x', { method: 'POST', body, duplex: 'half' } as RequestInit);
  for await (const piece of bodyOf(request)) if (piece.length > 0) break;
  expect(pulled).toBe(11);
});

test('loopback names, and nothing that only looks like one', () => {
  expect(['127.0.0.1', '127.0.0.1:4310', 'localhost:80', '[::1]:4310'].every(isLoopbackHost)).toBe(true);
  expect(
    [null, '', 'quillbrook.example', '127.0.0.1.quillbrook.example', 'localhost.quillbrook.example:80', '0.0.0.0'].some(
      isLoopbackHost,
    ),
  ).toBe(false);
  expect(readConfig({ YUCCA_HOST: '0.0.0.0' } as unknown as NodeJS.ProcessEnv)).toMatchObject({
    loopback: false,
    adminKey: null,
  });
  expect(readConfig({ YUCCA_ADMIN_KEY: '' } as unknown as NodeJS.ProcessEnv).adminKey).toBeNull();
});

describe('who sends a request', () => {
  const runtime = (loopback: boolean): Runtime =>
    ({
      config: { loopback },
      keys: { bySecret: (secret: string) => unlimited(secret, secret, ['search']) },
      sessions: { isSignedIn: (cookie: string | undefined) => cookie === 'mine' },
    }) as unknown as Runtime;
  const ask = (headers: Record<string, string>, loopback = true, query = ''): unknown =>
    callerOf(new Request(`http://127.0.0.1/x${query}`, { headers }), runtime(loopback));
  const own = { 'sec-fetch-site': 'same-origin', host: '127.0.0.1:4310' };

  test('the holder of a key', () => {
    expect(ask({ authorization: 'Bearer abc' })).toMatchObject({ label: 'abc' });
    expect(ask({ authorization: 'bearer   abc ' })).toMatchObject({ label: 'abc' });
    expect(ask({}, true, '?key=def')).toMatchObject({ label: 'def' });
  });

  test('the studio’s own pages, on loopback only', () => {
    expect(ask(own)).toMatchObject({ label: 'studio', rights: ['admin'] });
    expect(() => ask(own, false)).toThrow('Send a key');
    expect(() => ask({ ...own, host: 'evil.example' })).toThrow('Send a key');
    expect(() => ask({ ...own, 'sec-fetch-site': 'cross-site' })).toThrow('Send a key');
  });

  test('whoever has signed in, from pages of this server only', () => {
    const signedIn = { ...own, host: 'search.quillbrook.example', cookie: 'a=1; yucca-session=mine' };
    expect(ask(signedIn, false)).toMatchObject({ label: 'studio' });
    expect(() => ask({ ...signedIn, cookie: 'yucca-session=made-up' }, false)).toThrow('Send a key');
    expect(() => ask({ ...signedIn, 'sec-fetch-site': 'same-site' }, false)).toThrow('Send a key');
  });

  test('a wrong header is named, even from the studio', () => {
    expect(() => ask({ ...own, authorization: 'Token abc' })).toThrow('Bearer');
  });
});

test('a failure is known by its name, across instances of the module', () => {
  const foreign = Object.assign(new Error('x'), { name: 'Failure' });
  expect([
    isFailure(new Failure('invalid', 'x')),
    isFailure(foreign),
    isFailure(new Error('x')),
    isFailure('x'),
  ]).toEqual([true, true, false, false]);
});
