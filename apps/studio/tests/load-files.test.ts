import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { LoadFiles } from '../src/server/load-files/load-files';

let root: string;
let files: LoadFiles;

beforeAll(() => {
  root = mkdtempSync(path.join(tmpdir(), 'yucca-load-'));
  const folder = path.join(root, 'allowed');
  mkdirSync(path.join(folder, 'spring'), { recursive: true });
  mkdirSync(path.join(folder, 'folder.json'));
  const put = (name: string, content: string): void => writeFileSync(path.join(root, name), content);
  put('allowed/plants.jsonl', '{"id":1}\n');
  put('allowed/stock.csv', 'id;name\n1;Rose\n');
  put('allowed/array.txt.json', '[{"id":1}]');
  put('allowed/spring/packed.csv.gz', 'not unpacked to be listed');
  put('allowed/lines.json', '{"id":1}\n{"id":2}\n');
  put('allowed/picture.json', 'banana');
  put('allowed/notes.md', 'not loaded');
  put('secret.json', '[]');
  symlinkSync(path.join(root, 'secret.json'), path.join(folder, 'out.json'));
  symlinkSync(path.join(root, 'gone.json'), path.join(folder, 'broken.json'));
  files = new LoadFiles(folder);
});
afterAll(() => rmSync(root, { recursive: true }));

test('files that can be loaded are listed with their sizes, deep ones too; nothing else is', async () => {
  expect(await files.list()).toEqual([
    { path: 'array.txt.json', bytes: 10 },
    { path: 'lines.json', bytes: 18 },
    { path: 'notes.md', bytes: 10 },
    { path: 'picture.json', bytes: 6 },
    { path: 'plants.jsonl', bytes: 9 },
    { path: path.join('spring', 'packed.csv.gz'), bytes: 25 },
    { path: 'stock.csv', bytes: 15 },
  ]);
});

test.each([
  ['plants.jsonl', 'application/x-ndjson', false],
  ['stock.csv', 'text/csv', false],
  ['array.txt.json', 'application/json', false],
  ['lines.json', 'application/x-ndjson', false],
  ['spring/packed.csv.gz', 'text/csv', true],
])('%s is opened as %s', async (name, mediaType, gzip) => {
  const { body, bytes, ...found } = await files.open(name);
  expect(found).toEqual({ mediaType, gzip });
  let read = 0;
  for await (const chunk of body) read += chunk.length;
  expect(read).toBe(bytes);
});

test.each(['../secret.json', 'out.json', 'broken.json', 'folder.json', 'gone.csv', '', '.', '/etc/hosts', 'a\0b.json'])(
  '“%s” is no file of the folder, and nothing tells whether it is anywhere',
  async (name) => {
    await expect(files.open(name)).rejects.toMatchObject({ code: 'not-found' });
  },
);

test('what is no records is refused with what it looks like', async () => {
  await expect(files.open('picture.json')).rejects.toMatchObject({ code: 'unsupported-type' });
});

test('without a folder nothing may be loaded; one that is gone is empty', async () => {
  const none = new LoadFiles(null);
  expect(await none.list()).toBeNull();
  await expect(none.open('plants.jsonl')).rejects.toMatchObject({ code: 'forbidden' });
  const gone = new LoadFiles(path.join(root, 'nowhere'));
  expect(await gone.list()).toEqual([]);
  await expect(gone.open('plants.jsonl')).rejects.toMatchObject({ code: 'not-found' });
});
