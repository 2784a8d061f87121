import { unlimited } from '../src/server/keys/caller';
import { callerOf, pageTokenOf, studioIsOpen, WAY_HEADER } from '../src/http/caller';
import { fromWeb, type Incoming } from '../src/http/incoming';
import { isTrue, mediaType, oneOf, readJson, searchFrom, wholeNumber } from '../src/http/input';
import { isLoopbackHost, readConfig } from '../src/server/config';
import { gzipSync } from 'node:zlib';
import { jsonDepth } from '../src/server/json-depth';
import { Failure, isFailure } from '../src/server/failure';
import type { Runtime } from '../src/server/runtime';

const url = (query: string): URL => new URL(`http://127.0.0.1/x${query}`);
const post = (body: BodyInit, type?: string, more: Record<string, string> = {}): Incoming =>
  fromWeb(
    new Request('http://127.0.0.1/x', {
      method: 'POST',
      body,
      headers: { ...(type && { 'Content-Type': type }), ...more },
    }),
  );

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
    searchFrom(url('?q=a%20b&page=2&size=x&facets=a,b&fields=&select={"c":["d"]}&key=secret&__proto__=x').searchParams),
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

test('JSON bodies: depth is told before they are read, packed ones are unpacked within the same bounds', async () => {
  const nested = (levels: number): string => '['.repeat(levels) + ']'.repeat(levels);
  await expect(readJson(post(nested(64), 'application/json'))).resolves.toBeDefined();
  await expect(readJson(post(nested(65), 'application/json'))).rejects.toMatchObject({ code: 'unreadable' });
  await expect(readJson(post(nested(1_000_000), 'application/json'))).rejects.toThrow('64 levels');
  await expect(readJson(post(JSON.stringify(nested(1000)), 'application/json'))).resolves.toHaveLength(2000);
  const packed = { 'Content-Encoding': 'gzip' };
  expect(await readJson(post(gzipSync('{"a":1}'), 'application/json', packed))).toEqual({ a: 1 });
  const zeros = gzipSync(Buffer.alloc(64 * 1024 * 1024));
  await expect(readJson(post(zeros, 'application/json', packed))).rejects.toMatchObject({ code: 'too-large' });
  await expect(readJson(post('no gzip', 'application/json', packed))).rejects.toMatchObject({ code: 'unreadable' });
  await expect(readJson(post('x', 'application/json', { 'Content-Encoding': 'br' }))).rejects.toMatchObject({
    code: 'unsupported-type',
  });
});

test('the depth of a text, brackets in strings left out', () => {
  for (const [text, depth] of [
    ['', 0],
    ['1', 0],
    ['{"a":[{"b":1}]}', 3],
    ['["[[[","\\"]", "\\\\"]', 1],
    ['{"a":"\\\\\\"[["}', 1],
    ['["never closed [[[', 1],
  ] as const)
    expect([text, jsonDepth(text, 64)]).toEqual([text, depth]);
});

test('what is left of a body is read when nobody wants it any more', async () => {
  let pulled = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      if (pulled++ < 10) controller.enqueue(new Uint8Array(10));
      else controller.close();
    },
  });
  const request = fromWeb(new Request('http://127.0.0.1/x', { method: 'POST', body, duplex: 'half' } as RequestInit));
  for await (const piece of request.body()) if (piece.length > 0) break;
  while (pulled < 11) await new Promise((resolve) => setImmediate(resolve));
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
      config: { loopback, publicUrl: null },
      front: null,
      keys: { bySecret: (secret: string) => unlimited(secret, secret, ['search']) },
      sessions: { isSignedIn: (cookie: string | undefined) => cookie === 'mine' },
    }) as unknown as Runtime;
  const ask = (headers: Record<string, string>, loopback = true, query = ''): unknown =>
    callerOf(fromWeb(new Request(`http://127.0.0.1/x${query}`, { headers })), runtime(loopback));
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

  test('where browsers do not say which page asks: what writes needs an origin and the page’s token', () => {
    const plain = { host: 'house.quillbrook.example:4310', cookie: 'yucca-session=mine' };
    const write = (headers: Record<string, string>): unknown =>
      callerOf(
        fromWeb(new Request('http://x/y', { method: 'POST', headers: { ...plain, ...headers } })),
        runtime(false),
      );
    const origin = 'http://house.quillbrook.example:4310';
    const token = pageTokenOf('mine');
    expect(ask(plain, false)).toMatchObject({ label: 'studio' });
    expect(write({ origin, 'x-yucca-page': token })).toMatchObject({ label: 'studio' });
    for (const headers of [
      {},
      { origin },
      { 'x-yucca-page': token },
      { origin: 'http://evil.example', 'x-yucca-page': token },
      { origin: 'null', 'x-yucca-page': token },
      { origin, 'x-yucca-page': pageTokenOf('other') },
      { origin, 'x-yucca-page': token, cookie: 'yucca-session=made-up' },
    ] as Record<string, string>[])
      expect(() => write(headers)).toThrow('Send a key');
    expect(() => ask({ ...plain, origin: 'http://evil.example' }, false)).toThrow('Send a key');
  });

  test('on loopback behind a proxy nobody is let in without signing in', () => {
    const front = { ...runtime(true), front: { directWay: 'token' } } as Runtime;
    const from = (headers: Record<string, string>): unknown =>
      callerOf(fromWeb(new Request('http://127.0.0.1/x', { headers: { ...own, ...headers } })), front);
    expect(from({ [WAY_HEADER]: 'token' })).toMatchObject({ label: 'studio' });
    expect(() => from({})).toThrow('Send a key');
    expect(() => from({ [WAY_HEADER]: 'guess' })).toThrow('Send a key');
    const told = { ...front, config: { loopback: true, publicUrl: 'https://search.example' } } as Runtime;
    expect(studioIsOpen(new Headers({ ...own, [WAY_HEADER]: 'token' }), told)).toBe(false);
  });

  test('a key that may write does not belong into an address', () => {
    const writing = {
      ...runtime(true),
      keys: { bySecret: (label: string) => unlimited(label, label, [label as 'write']) },
    } as unknown as Runtime;
    const by = (right: string): unknown => callerOf(fromWeb(new Request(`http://127.0.0.1/x?key=${right}`)), writing);
    expect(by('read')).toMatchObject({ label: 'read' });
    for (const right of ['write', 'admin']) expect(() => by(right)).toThrow('does not belong into an address');
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
