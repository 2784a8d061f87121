/** Single requests that nobody should send. Each has an end, within seconds, and the server goes on searching. */
import { gzipSync } from 'node:zlib';
import { sendRaw, written, type RawAnswer } from '../src/raw';
import { loadPlants, Server } from '../src/server';

let server: Server;
let asked = 0;
beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants');
});
afterAll(async () => {
  await server.leave();
  expect(asked).toBeGreaterThanOrEqual(400);
});

const AUTH = { Authorization: 'Bearer e2e-admin-key' };
const JSON_TYPE = { 'Content-Type': 'application/json' };
const C = '/api/v1/collections/plants';

/** Sends one and looks at what every answer must be: there, soon, a problem when it is none, without a stack. */
async function hostile(request: string | Buffer, allowed: (status: number) => boolean = isRefused): Promise<RawAnswer> {
  asked++;
  const answer = await sendRaw(server.base, request);
  const shown = {
    sent: request.toString('latin1').slice(0, 200),
    status: answer.status,
    body: answer.body.slice(0, 300),
  };
  expect({ ...shown, fits: allowed(answer.status) }).toMatchObject({ fits: true });
  expect(answer.ms).toBeLessThan(5_000);
  expect(answer.body).not.toMatch(/\n\s+at |node_modules|\.ts:\d+|SQLITE_/);
  if (answer.status >= 400 && shown.sent.includes('/api/') && !shown.sent.startsWith('HEAD'))
    expect([shown.sent, answer.headers.get('content-type')]).toEqual([shown.sent, 'application/problem+json']);
  return answer;
}
/** 4xx, or a closed door; 5xx but 503 is a defect. */
const isRefused = (status: number): boolean => status >= 400 && status < 500;
const isAnswered = (status: number): boolean => (status >= 200 && status < 500) || status === 503;

async function searches(): Promise<void> {
  const answer = await server.call('GET', '/collections/plants/search?q=lavender&size=1');
  expect(answer.status).toBe(200);
  expect(((await answer.json()) as { total: number }).total).toBe(20);
}
afterEach(searches);

const PATHS = [
  '/',
  '/s/plants',
  '/s/plants/r/P-001',
  '/files/x.svg',
  '/session',
  '/api/v1/health',
  '/api/v1/collections',
  C,
  `${C}/search`,
  `${C}/records`,
  `${C}/records/P-001`,
  `${C}/tuning`,
  '/api/v1/events',
  '/api/v1/tasks/x',
  '/nothing/at/all',
];

describe.each(PATHS)('%s', (path) => {
  test('percent-escapes that are none', async () => {
    for (const escape of ['%', '%E0%A4%A', '%ZZ', '%c3%28', '%ff'])
      expect((await hostile(written('GET', `${path}/${escape}`, AUTH))).status).toBe(400);
  });

  test('methods that nobody knows', async () => {
    for (const method of ['TRACE', 'PROPFIND', 'MKCOL', 'LOCK', 'SEARCH', 'PURGE', 'LINK']) {
      const { status, headers } = await hostile(written(method, path, AUTH));
      expect([method, status, headers.has('allow')]).toEqual([method, 405, true]);
    }
    for (const method of ['BREW', 'get', 'G\x01T']) await hostile(written(method, path, AUTH));
  });

  test('a path that climbs, doubles its slashes or ends in one', async () => {
    for (const odd of ['/..', '/../..', '/%2e%2e', '/./.', '//', '/%2e%2e%2f%2e%2e%2fetc', '/%00', '/%0d%0aX:1'])
      await hostile(written('GET', `${path}${odd}`, AUTH), isAnswered);
    for (const method of ['POST', 'PUT', 'PATCH', 'DELETE'])
      expect((await hostile(written(method, `${path === '/' ? '/s/plants' : path}/`, { ...AUTH, ...JSON_TYPE }, '{}'))).status).toBeGreaterThanOrEqual(404); // prettier-ignore
  });

  test('headers that lie', async () => {
    for (const headers of [
      { Host: 'evil.example\\@x' },
      { Host: '' },
      { 'X-Forwarded-Proto': 'javascript' },
      { 'X-Forwarded-Host': '"><script>' },
      { 'X-Forwarded-For': 'not, an, address' },
      { 'If-None-Match': '"'.repeat(10_000) },
      { Range: 'bytes=0-0,1-1,2-2,-5' },
      { Accept: '*/*;q=x,,,,;;;' },
      { 'Accept-Encoding': ','.repeat(5_000) },
      { Cookie: 'yucca-session=' + 'x'.repeat(20_000) },
      { 'x-yucca-way': 'guess' },
      { Expect: 'the-worst' },
    ] as Record<string, string>[])
      await hostile(written('GET', path, { ...AUTH, ...headers }), isAnswered);
  });
});

test('what is no HTTP at all', async () => {
  for (const bytes of [
    'hello\r\n\r\n',
    '\x16\x03\x01\x02\x00\x01\x00',
    'GET / HTTP/9.9\r\nHost: x\r\n\r\n',
    'GET /api/v1/health HTTP/1.1\r\n\r\n',
    'GET  /  HTTP/1.1\r\nHost: x\r\n\r\n',
    `GET /api/v1/health HTTP/1.1\r\nHost: x\r\n${'A'.repeat(100_000)}`,
    `GET /api/v1/health HTTP/1.1\r\nHost: x\r\n${'a: b\r\n'.repeat(15_000)}\r\n`,
    `GET /api/v1/health HTTP/1.1\r\nHost: x\r\n${'a: b\r\n'.repeat(500)}\r\n`,
    `GET /api/v1/health?${'q'.repeat(50_000)} HTTP/1.1\r\nHost: x\r\n\r\n`,
    'POST /api/v1/events HTTP/1.1\r\nHost: x\r\nContent-Length: 5\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n',
    'POST /api/v1/events HTTP/1.1\r\nHost: x\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nhello',
    'POST /api/v1/events HTTP/1.1\r\nHost: x\r\nContent-Length: -1\r\n\r\n',
    'POST /api/v1/events HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\nZZZ\r\n',
    'CONNECT example:443 HTTP/1.1\r\nHost: example\r\n\r\n',
    'OPTIONS * HTTP/1.1\r\nHost: x\r\n\r\n',
    'GET http://evil.example/ HTTP/1.1\r\nHost: evil.example\r\n\r\n',
  ])
    await hostile(bytes, (status) => isAnswered(status) && status !== 200);
});

test('types of bodies that are none', async () => {
  for (const type of ['__proto__', 'constructor', 'toString', 'hasOwnProperty', '', ';;;', 'x'.repeat(9_000), 'application/json\x00', 'text/csv;header=absent;charset=utf-99']) // prettier-ignore
    for (const path of [`${C}/records`, `${C}/search`, '/api/v1/events', `${C}/synonyms/read`, `${C}/judgements`])
      await hostile(written(path.endsWith('judgements') ? 'PUT' : 'POST', path, { ...AUTH, 'Content-Type': type }, '{}'), isAnswered); // prettier-ignore
  for (const encoding of ['__proto__', 'br', 'gzip, gzip', 'deflate', 'x'])
    expect((await hostile(written('POST', `${C}/search`, { ...AUTH, ...JSON_TYPE, 'Content-Encoding': encoding }, '{}'))).status).toBe(415); // prettier-ignore
});

test('bodies that are too deep, too large, or packed to burst', async () => {
  const deep = '['.repeat(100_000) + ']'.repeat(100_000);
  const deepObject = '{"a":'.repeat(70) + '1' + '}'.repeat(70);
  const zeros = gzipSync(Buffer.alloc(200 * 1024 * 1024));
  for (const [method, path] of [
    ['POST', `${C}/search`],
    ['POST', '/api/v1/search'],
    ['POST', '/api/v1/events'],
    ['PUT', `${C}/records/deep`],
    ['PATCH', `${C}/records/P-001`],
    ['PUT', `${C}/tuning/draft`],
    ['PATCH', `${C}/tuning/draft`],
    ['POST', '/api/v1/collections'],
    ['POST', '/api/v1/keys'],
    ['PUT', `${C}/field-rules`],
    ['PUT', `${C}/judgements`],
    ['POST', '/api/v1/interfaces'],
    ['POST', `${C}/whereabouts`],
  ] as const) {
    const headers = { ...AUTH, ...JSON_TYPE };
    expect((await hostile(written(method, path, headers, deep))).status).toBeGreaterThanOrEqual(400);
    await hostile(written(method, path, headers, deepObject));
    await hostile(written(method, path, headers, Buffer.alloc(5 * 1024 * 1024, 0x20)));
    await hostile(written(method, path, { ...headers, 'Content-Encoding': 'gzip' }, zeros));
    for (const body of [
      '',
      '{',
      'null',
      '[]',
      '"x"',
      '1e999',
      '{"a":1}{',
      '\ufeff{}',
      '{"__proto__":{"x":1}}',
      '{"constructor":1}',
    ])
      await hostile(written(method, path, headers, body), isAnswered);
  }
});

test('a body that is wrong in a million places is told the first of them', async () => {
  const million = (item: string): string => `[${`${item},`.repeat(900_000)}${item}]`;
  const headers = { ...AUTH, ...JSON_TYPE };
  expect((await hostile(written('POST', `${C}/search`, headers, `{"facets":${million('1')}}`))).status).toBe(413);
  expect((await hostile(written('POST', '/api/v1/search', headers, `{"queries":${million('{}')}}`))).status).toBe(413);
  for (const body of [
    `{"synonyms":${million('{}')}}`,
    `{"search":${million('1')}}`,
    `{"stopWords":${million('""')}}`,
  ]) {
    const { status, body: text } = await hostile(written('PUT', `${C}/tuning/draft`, headers, body));
    expect([status, (JSON.parse(text) as { errors: unknown[] }).errors.length]).toEqual([422, 1]);
  }
  // What is small is told everything.
  const small = await hostile(written('POST', `${C}/search`, headers, '{"size":-1,"page":0,"facets":7}'));
  expect((JSON.parse(small.body) as { errors: unknown[] }).errors).toHaveLength(3);
});

test('values nobody expects in every parameter', async () => {
  const values = ['__proto__', '%00', "'", '"', '\\', '%F0%9F%90%BB', '-1', '1e9', '9'.repeat(30), 'NaN', '[]', '{}', 'true', '%7B%22a%22%3A', '..', '*', 'a'.repeat(3_000)]; // prettier-ignore
  for (const name of [
    'q',
    'select',
    'filter',
    'facets',
    'page',
    'size',
    'sort',
    'near',
    'fields',
    'explain',
    'version',
    'session',
    'on',
  ])
    for (const value of values) {
      asked++;
      const answer = await sendRaw(server.base, written('GET', `${C}/search?${name}=${value}`, AUTH));
      expect([name, value.slice(0, 20), isAnswered(answer.status) && answer.ms < 5000]).toEqual([
        name,
        value.slice(0, 20),
        true,
      ]);
    }
});

test('a body that never comes, and one that comes a byte at a time', async () => {
  const head = written('POST', `${C}/search`, { ...AUTH, ...JSON_TYPE, 'Content-Length': '1000' });
  const slow = await sendRaw(server.base, head, { waitMs: 1_500, feed: (socket) => void socket.write('{') });
  expect(slow.status).toBe(0);
  await searches();
});

test('a refused body is not read to its end', async () => {
  const head = written('POST', `${C}/records`, {
    Authorization: 'Bearer wrong',
    ...JSON_TYPE,
    'Content-Length': '500000000',
  });
  const answer = await sendRaw(server.base, head, {
    untilEnded: true,
    feed: (socket) => {
      const piece = Buffer.alloc(64 * 1024);
      const more = (): void => {
        while (!socket.destroyed && socket.write(piece));
        if (!socket.destroyed) socket.once('drain', more);
      };
      more();
    },
  });
  expect([401, 0]).toContain(answer.status);
  // What lies in the buffers of the system is taken as well; not 500 MB.
  expect(answer.sent).toBeLessThan(20_000_000);
});

test('the records . and .. and delete are records, and nothing else is deleted with them', async () => {
  for (const key of ['.', '..', 'delete', '%2e%2e', '../..', 'a/b', '__proto__', 'x\ny', ' ', '?#&=']) {
    const address = `${C}/record?key=${encodeURIComponent(key)}`;
    const made = await sendRaw(server.base, written('PUT', address, { ...AUTH, ...JSON_TYPE }, '{"name":"odd one"}'));
    expect([key, made.status]).toEqual([key, 201]);
    const read = await sendRaw(server.base, written('GET', address, AUTH));
    expect(JSON.parse(read.body)).toMatchObject({ record: { id: key } });
    expect((await sendRaw(server.base, written('DELETE', address, AUTH))).status).toBe(204);
    await searches();
  }
  // As it is written in the path, also where a client would resolve it.
  for (const key of ['..', '.', '%2e%2e', 'delete']) {
    const path = `${C}/records/${key}`;
    expect((await sendRaw(server.base, written('PUT', path, { ...AUTH, ...JSON_TYPE }, '{"name":"x"}'))).status).toBe(
      201,
    );
    expect((await sendRaw(server.base, written('DELETE', path, AUTH))).status).toBe(204);
    await searches();
  }
  // And as a client that resolves it sends it.
  const resolved = await fetch(`${server.base}${C}/records/..`, { method: 'DELETE', headers: AUTH });
  expect(resolved.status).toBe(404);
});

test('a record of more fields or levels than anything could show is refused alone', async () => {
  const wide = Object.fromEntries(Array.from({ length: 1_001 }, (_, i) => [`f${i}`, 1]));
  const answer = await server.call('PUT', '/collections/plants/records/wide', wide);
  expect(answer.status).toBe(422);
  expect(((await answer.json()) as { detail: string }).detail).toContain('1000 fields');
  const list = { id: 'list', name: 'x', items: Array.from({ length: 3_000 }, (_, i) => ({ n: i })) };
  expect((await server.call('PUT', '/collections/plants/records/list', list)).status).toBe(201);
  expect((await server.call('DELETE', '/collections/plants/records/list')).status).toBe(204);
});
