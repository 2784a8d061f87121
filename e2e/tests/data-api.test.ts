import { OPERATIONS, SCHEMAS, type Operation } from '@yucca/contract/openapi';
import { Ajv2020 } from 'ajv/dist/2020';
import addFormats from 'ajv-formats';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { loadPlants, Server } from '../src/server';

const loadDir = mkdtempSync(path.join(tmpdir(), 'yucca-files-'));
let server: Server;
beforeAll(async () => {
  server = await new Server().start({ YUCCA_LOAD_DIR: loadDir });
  await loadPlants(server, 'plants');
});
afterAll(async () => {
  await server.leave();
  rmSync(loadDir, { recursive: true });
});

const ajv = new Ajv2020({ strict: false, allErrors: true });
addFormats.default(ajv);
for (const [name, schema] of Object.entries(SCHEMAS)) ajv.addSchema({ ...schema, $id: name });

/** Asks as an operation says, and checks status and answer against what it says. */
async function ask(
  id: string,
  parameters: Record<string, string>,
  more: { query?: string; body?: unknown } = {},
): Promise<unknown> {
  const operation = OPERATIONS.find((one) => one.id === id)!;
  const route = operation.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(parameters[name]!));
  const body = more.body ?? operation.body?.[0]?.example;
  const response = await fetch(`${server.base}/api/v1${route}${more.query ?? ''}`, {
    method: operation.method.toUpperCase(),
    headers: {
      Authorization: `Bearer ${server.adminKey}`,
      ...(operation.body ? { 'Content-Type': operation.body[0]!.type } : {}),
    },
    ...(operation.body ? { body: JSON.stringify(body) } : {}),
  });
  return checked(operation, response);
}

async function checked(operation: Operation, response: Response): Promise<unknown> {
  const text = await response.text();
  const contents = operation.answers[response.status];
  if (contents === undefined) throw new Error(`${operation.id} answered ${response.status}: ${text}`);
  if (contents === null) return null;
  const type = response.headers.get('content-type')!.split(';')[0]!;
  const content = contents.find((one) => one.type === type)!;
  if (type !== 'application/json') return text;
  const answer: unknown = JSON.parse(text);
  ajv.validate(content.schema, answer);
  expect([operation.id, ajv.errors]).toEqual([operation.id, null]);
  return answer;
}

test('every operation answers what the description says', async () => {
  const plants = { collection: 'plants' };
  await ask('health', {});
  await ask('describe', {});
  await ask('search', plants, { body: { q: 'rose', facets: ['*'], explain: true } });
  await ask('searchByAddress', plants, { query: '?q=rose&facets=*' });
  await ask('multiSearch', {}, { body: { queries: [{ collection: 'plants' }, { collection: 'nowhere' }] } });
  await ask('suggest', plants, { query: '?q=ro' });
  await ask('facetValues', { ...plants, field: 'colour' }, { query: '?q=r' });
  const { task } = (await ask('load', plants, { query: '?wait=true', body: [{ id: 'new-1' }, { nothing: 1 }] })) as {
    task: { id: string };
  };
  await ask('load', plants, { body: [{ id: 'new-2' }] });
  await ask('listRecords', plants);
  await ask('putRecord', { ...plants, id: 'new-3' }, { body: { name: 'x' } });
  await ask('getRecord', { ...plants, id: 'new-3' });
  await ask('patchRecord', { ...plants, id: 'new-3' });
  await ask('deleteRecord', { ...plants, id: 'new-3' });
  await ask('deleteRecords', plants, { body: { ids: ['new-1'] } });
  await ask('deleteRecords', plants, { body: { filter: "id = 'new-2'" } });
  await ask('profile', plants);
  await ask('getFieldRules', plants);
  await ask('previewFieldRule', plants, { body: { field: 'price', as: 'text' } });
  await ask('putFieldRules', plants, { query: '?apply=true', body: { rules: [{ field: 'note', as: 'text' }] } });
  await ask('putFieldRules', plants, { query: '?apply=true&wait=true', body: { rules: [] } });
  const tuning = await ask('getTuning', plants);
  await ask('putDraft', plants, { body: tuning });
  await ask('draftCost', plants);
  await ask('patchDraft', plants);
  await ask('publish', plants, { query: '?wait=true' });
  await ask('listVersions', plants);
  await ask('restoreVersion', { ...plants, version: '2' });
  await ask('discardDraft', plants);
  const settings = await ask('getSettings', plants);
  await ask('putSettings', plants, { body: settings });
  await ask('listCollections', {});
  await ask('createCollection', {});
  await ask('getCollection', { collection: 'bulbs' });
  await ask('patchCollection', { collection: 'bulbs' });
  await ask('deleteCollection', { collection: 'bulbs' });
  const { key } = (await ask('createKey', {})) as { key: { id: string } };
  await ask('listKeys', {});
  await ask('deleteKey', { id: key.id });
  await ask('listTasks', {});
  await ask('getTask', { id: task.id });
  await ask('watchTask', { id: task.id });
  await ask('failedLines', { id: task.id });
  await ask('cancelTask', { id: task.id });
  await ask('listLoadFiles', {});
});

test('the description and the routes are the same', () => {
  const folder = path.join(__dirname, '../../apps/studio/src/app/api/v1');
  const routes = (readdirSync(folder, { recursive: true }) as string[])
    .filter((name) => name.endsWith('route.ts') && !name.includes('[...'))
    .flatMap((name) => {
      const source = readFileSync(path.join(folder, name), 'utf8');
      const route = `/${path.dirname(name).replaceAll('[', '{').replaceAll(']', '}')}`;
      const methods = [...source.matchAll(/export const (GET|POST|PUT|PATCH|DELETE) =/g)].map(([, method]) => method!);
      // One record, wherever its key stands in the address; at `records/delete` it is the record of that name.
      if (/= recordRoutes\(/.test(source) && !route.endsWith('/delete')) methods.push('GET', 'PUT', 'PATCH', 'DELETE');
      return methods.map((method) => `${method} ${route}`);
    });
  const described = OPERATIONS.map(({ method, path: route }) => `${method.toUpperCase()} ${route}`);
  expect(routes.sort()).toEqual([...described].sort());
});

test('settings go out as a file and come in again', async () => {
  await server.api('POST', '/collections', { name: 'twin' });
  const settings = await server.api<{ tuning: object }>('GET', '/collections/plants/settings');
  const put = (
    query: string,
    body: object,
  ): Promise<{ changed: string[]; liveVersion: number; draftChanged: boolean }> =>
    server.api('PUT', `/collections/twin/settings${query}`, body);
  const rules = [{ field: 'price', as: 'number' }];
  expect(await put('', { ...settings, fieldRules: rules })).toEqual({
    changed: ['title', 'fieldRules', 'tuning'],
    liveVersion: 1,
    draftChanged: true,
  });
  expect(await put('?publish=true&note=From+git', { ...settings, fieldRules: rules })).toMatchObject({
    changed: ['tuning'],
    liveVersion: 2,
    draftChanged: false,
  });
  expect(await put('?publish=true', { ...settings, fieldRules: rules })).toMatchObject({ changed: [], liveVersion: 2 });
  expect(await server.api('GET', '/collections/twin/settings')).toEqual({ ...settings, fieldRules: rules });
  await expect(put('', { ...settings, key: 'sku' })).rejects.toThrow('409');
  await expect(put('', { settings: 2, tuning: {} })).rejects.toThrow('422');
});

test('files of the server’s machine: those of the one folder and no other', async () => {
  const outside = mkdtempSync(path.join(tmpdir(), 'yucca-outside-'));
  writeFileSync(path.join(outside, 'secret.jsonl'), '{"id":"secret"}\n');
  mkdirSync(path.join(loadDir, 'deep'));
  writeFileSync(path.join(loadDir, 'deep/ferns.csv'), 'id,name\nf1,Fern\n');
  writeFileSync(path.join(loadDir, 'moss.jsonl.gz'), gzipSync('{"id":"m1"}\n{"id":"m2"}\n'));
  symlinkSync(path.join(outside, 'secret.jsonl'), path.join(loadDir, 'link.jsonl'));
  await server.api('POST', '/collections', { name: 'files' });
  const { items } = await server.api<{ items: { path: string }[] }>('GET', '/load-files');
  // The link leads out of the folder, so it is not offered either.
  expect(items.map((file) => file.path)).toEqual(['deep/ferns.csv', 'moss.jsonl.gz']);
  const load = (file: string): Promise<unknown> =>
    server.api('POST', `/collections/files/records?wait=true&file=${encodeURIComponent(file)}`);
  expect(await load('deep/ferns.csv')).toMatchObject({ task: { state: 'done', done: 1 } });
  expect(await load('moss.jsonl.gz')).toMatchObject({ task: { done: 2 } });
  for (const file of [
    'link.jsonl',
    `../${path.basename(outside)}/secret.jsonl`,
    path.join(outside, 'secret.jsonl'),
    '/etc/passwd',
    'nowhere.csv',
    'deep',
    '',
  ])
    await expect(load(file)).rejects.toThrow('404');
  const { secret } = await server.api<{ secret: string }>('POST', '/keys', { label: 'w', rights: ['write'] });
  const asWriter = await fetch(`${server.base}/api/v1/collections/files/records?file=deep/ferns.csv`, {
    method: 'POST',
    headers: { Authorization: `Bearer ${secret}` },
  });
  expect(asWriter.status).toBe(403);
  rmSync(outside, { recursive: true });
});
