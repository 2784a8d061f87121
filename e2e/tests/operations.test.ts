/** What docs/operations.md says, tried. */
import type { AuditEntry, Page, Readiness } from '@yucca/contract';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { freePort, loadPlants, Server } from '../src/server';
import { sendRaw, written } from '../src/raw';

let server: Server;
let nginx: ChildProcess;
let proxy = '';

beforeAll(async () => {
  server = await new Server().start({ YUCCA_ACCESS_LOG: 'on', YUCCA_LOG: 'info', YUCCA_ANONYMOUS_PER_MINUTE: '40' });
  await loadPlants(server, 'plants');
  const port = await freePort();
  proxy = `http://127.0.0.1:${port}`;
  nginx = startNginx(port);
  for (let tries = 0; tries < 100; tries++) {
    if (await fetch(`${proxy}/api/v1/health`).then(({ ok }) => ok, () => false)) return; // prettier-ignore
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('nginx did not start');
});
afterAll(async () => {
  nginx.kill();
  await server.leave();
});

/** nginx with the server block of docs/operations.md; without TLS, and with the ports of this test. */
function startNginx(port: number): ChildProcess {
  const docs = readFileSync(path.join(__dirname, '../../docs/operations.md'), 'utf8');
  const block = /```nginx\n([\s\S]*?)```/
    .exec(docs)![1]!
    .replace('listen 8443 ssl', `listen 127.0.0.1:${port}`)
    .replace('http://127.0.0.1:4310', server.base);
  const folder = mkdtempSync(path.join(tmpdir(), 'yucca-nginx-'));
  mkdirSync(path.join(folder, 'tmp'));
  const paths = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((name) => `${name}_temp_path tmp/${name};`);
  writeFileSync(
    path.join(folder, 'nginx.conf'),
    `daemon off; pid nginx.pid; error_log stderr error;\nevents {}\nhttp { access_log off; ${paths.join(' ')}\n${block}\n}\n`,
  );
  return spawn(process.env.NGINX_PATH ?? '/usr/sbin/nginx', ['-p', folder, '-c', 'nginx.conf', '-e', 'stderr'], {
    stdio: 'inherit',
  });
}

const own = { 'Sec-Fetch-Site': 'same-origin' };

test('behind a proxy the studio asks for its password; on this machine it is open', async () => {
  const at = async (base: string, headers: Record<string, string> = own): Promise<[number, string | null]> => {
    const { status, headers: sent } = await fetch(`${base}/`, { redirect: 'manual', headers });
    return [status, sent.get('location')];
  };
  expect(await at(server.base)).toEqual([200, null]);
  expect(await at(proxy)).toEqual([307, '/sign-in?next=%2F']);
  expect((await fetch(`${proxy}/api/v1/collections`, { headers: own })).status).toBe(401);
  for (const header of ['Forwarded', 'Via', 'X-Forwarded-For', 'X-Forwarded-Proto', 'X-Real-IP'])
    expect(await at(server.base, { ...own, [header]: 'x' })).toEqual([307, '/sign-in?next=%2F']);
  expect(await at(server.base, { ...own, Host: 'elsewhere.example' })).not.toEqual([500, null]);
  // The page that asks for the password shows the way to set the first one.
  expect(await (await fetch(`${proxy}/sign-in`)).text()).toContain('Code from the log');
  expect(server.printed).toMatch(/with the code [A-Z0-9-]{14}/);
});

test('through the proxy: searches, packed answers, loads as they arrive, and odd keys', async () => {
  const headers = { Authorization: `Bearer ${server.adminKey}` };
  const found = await fetch(`${proxy}/api/v1/collections/plants/search?q=lavender`, { headers });
  expect([found.status, found.headers.get('content-encoding')]).toEqual([200, 'gzip']);
  const rows = Array.from({ length: 2_000 }, (_, i) => `{"id":"via-${i}","name":"through the proxy"}\n`).join('');
  const loaded = await fetch(`${proxy}/api/v1/collections/plants/records?wait=true`, {
    method: 'POST',
    headers: { ...headers, 'Content-Type': 'application/x-ndjson' },
    body: rows,
  });
  expect(await loaded.json()).toMatchObject({ task: { state: 'done', done: 2_000 } });
  const odd = written('DELETE', '/api/v1/collections/plants/records/..', headers);
  await sendRaw(proxy, odd);
  expect((await server.call('GET', '/collections/plants')).status).toBe(200);
});

test('whoever shows no key has a rate, by the address that the proxy tells', async () => {
  const ask = (address: string): Promise<Response> =>
    fetch(`${server.base}/s/plants`, { headers: { 'X-Forwarded-For': address } });
  const statuses: number[] = [];
  for (let i = 0; i < 42; i++) statuses.push((await ask('203.0.113.7')).status);
  expect(statuses.slice(0, 40).every((status) => status === 200)).toBe(true);
  expect(statuses.slice(40)).toEqual([429, 429]);
  expect((await ask('203.0.113.8')).status).toBe(200);
  const refused = await ask('203.0.113.7');
  expect(refused.headers.get('retry-after')).toMatch(/^\d+$/);
  // Keys that are guessed count as well; nobody on this machine is counted.
  const guess = (): Promise<Response> =>
    fetch(`${server.base}/api/v1/collections`, {
      headers: { 'X-Forwarded-For': '203.0.113.9', Authorization: 'Bearer guess' },
    });
  const guesses: number[] = [];
  for (let i = 0; i < 42; i++) guesses.push((await guess()).status);
  expect([guesses[0], guesses.at(-1)]).toEqual([401, 429]);
  for (let i = 0; i < 60; i++) expect((await fetch(`${server.base}/s/plants`)).status).toBe(200);
});

test('readiness and metrics; names of collections are for administrators', async () => {
  const open = (await (await fetch(`${server.base}/api/v1/ready`)).json()) as Readiness;
  expect(open).toMatchObject({ status: 'ready', collections: [], storage: { state: 'ok' } });
  const all = await server.api<Readiness>('GET', '/ready');
  expect(all.collections).toEqual([{ name: 'plants', state: 'ready', progress: 1 }]);
  expect(all.threads.find(({ name }) => name === 'searcher')!.alive).toBeGreaterThan(0);
  expect((await fetch(`${server.base}/api/v1/metrics`)).status).toBe(401);
  const metrics = await server.call('GET', '/metrics');
  expect(metrics.headers.get('content-type')).toContain('application/openmetrics-text');
  const text = await metrics.text();
  expect(text).toMatch(
    /yucca_requests_total\{route="\/api\/v1\/collections\/\[collection\]\/search",method="GET",status="200"\} [1-9]/,
  );
  for (const name of ['yucca_threads_alive', 'yucca_wal_bytes', 'yucca_index_bytes', 'process_resident_memory_bytes']) expect(text).toContain(name); // prettier-ignore
  expect(text.trimEnd().endsWith('# EOF')).toBe(true);
});

test('the access log has a line a request, and nothing that somebody typed', async () => {
  await server.call('GET', '/collections/plants/search?q=secretwords');
  await new Promise((resolve) => setTimeout(resolve, 200));
  const lines = server.printed.split('\n').filter((line) => line.includes('"request"'));
  expect(
    lines.some((line) => line.includes('/api/v1/collections/plants/search') && line.includes('"status":200')),
  ).toBe(true);
  expect(server.printed).not.toContain('secretwords');
  expect(server.printed).not.toContain(server.adminKey);
});

test('the audit trail says who changed what, from which version, and comes as CSV that runs nothing', async () => {
  const { key, secret } = await server.api<{ key: { id: string }; secret: string }>('POST', '/keys', {
    label: '=Shop()',
    rights: ['write'],
  });
  await fetch(`${server.base}/api/v1/collections/plants/records/audited`, {
    method: 'PUT',
    headers: { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json' },
    body: '{"name":"x"}',
  });
  await server.api('PATCH', '/collections/plants/tuning/draft', { signalShare: 0.3 });
  await server.api('POST', '/collections/plants/tuning/publish', { note: 'Spring' });
  await server.api('POST', '/collections/plants/search', { q: 'asking changes nothing' });
  const { items } = await server.api<Page<AuditEntry>>('GET', '/audit?collection=plants');
  expect(items[0]).toMatchObject({ actor: 'admin', method: 'POST', path: '/collections/plants/tuning/publish', remote: '127.0.0.1', detail: { from: 2, to: 3, note: 'Spring' } }); // prettier-ignore
  expect(items[2]).toMatchObject({
    actor: '=Shop()',
    keyId: key.id,
    method: 'PUT',
    detail: { key: 'audited', did: 'created' },
  });
  expect(items.some(({ path: at }) => at.endsWith('/search'))).toBe(false);
  const csv = await (await server.call('GET', '/audit?format=csv&spreadsheet=true')).text();
  expect(csv).toContain("'=Shop()");
  const plain = await (await server.call('GET', '/audit?format=ndjson')).text();
  expect(JSON.parse(plain.split('\n')[0]!)).toMatchObject({ actor: 'admin' });
});

test('CSV for a spreadsheet runs no formula; without being asked, values stay as they are', async () => {
  await server.api('PUT', '/collections/plants/records/formula', {
    name: '=HYPERLINK("http://evil.example")',
    price: -3,
  });
  const csv = async (more: string) =>
    (await server.call('GET', `/collections/plants/records?format=csv&fields=name,price${more}`)).text();
  expect(await csv('&spreadsheet=true')).toContain(`"'=HYPERLINK(""http://evil.example"")",-3`);
  expect(await csv('')).toContain(`"=HYPERLINK(""http://evil.example"")",-3`);
});
