/** What a drop holds: files, and folders with files in folders. */
import { strFromU8, unzipSync } from 'fflate';
import { droppedFiles } from '../src/features/load/dropped-files';

type Tree = { [name: string]: string | Tree };

/** An entry as browsers give it: a folder's entries in parts of two. */
function entryOf(name: string, content: string | Tree): FileSystemEntry {
  if (typeof content === 'string')
    return { name, isDirectory: false, file: (done: (file: File) => void) => done(new File([content], name)) } as never;
  const entries = Object.entries(content).map(([inner, of]) => entryOf(inner, of));
  const createReader = () => {
    let at = 0;
    return { readEntries: (done: (part: FileSystemEntry[]) => void) => done(entries.slice(at, (at += 2))) };
  };
  return { name, isDirectory: true, createReader } as never;
}

function dropOf(tree: Tree): Parameters<typeof droppedFiles>[0] {
  const all = Object.entries(tree);
  const files = all.map(([name, content]) => new File([typeof content === 'string' ? content : ''], name));
  const items = all.map(([name, content]) => ({ webkitGetAsEntry: () => entryOf(name, content) }));
  return { files, items } as never;
}

test('files come as they are', async () => {
  const found = await droppedFiles(dropOf({ 'a.csv': 'id\n1', 'b.json': '[]' }));
  expect(found.map(({ name, size }) => [name, size])).toEqual([['a.csv', 4], ['b.json', 2]]); // prettier-ignore
});

test('the pages of a folder become one archive with their paths, other files come one by one', async () => {
  const guides = {
    'index.md': '# Start',
    deep: { 'late frost.md': 'words', 'rose.html': '<p>rose' },
    'stock.csv': 'id\n1',
    '.git': { config: 'x' },
    node_modules: { 'readme.md': 'not mine' },
  };
  const found = await droppedFiles(dropOf({ guides, 'plants.json': '[]' }));
  expect(found.map(({ name }) => name)).toEqual(['plants.json', 'guides.zip', 'stock.csv']);
  const archive = unzipSync(new Uint8Array(await found[1]!.arrayBuffer()));
  expect(Object.entries(archive).map(([name, bytes]) => [name, strFromU8(bytes)])).toEqual([
    ['index.md', '# Start'],
    ['deep/late frost.md', 'words'],
    ['deep/rose.html', '<p>rose'],
  ]);
});

test('a folder that holds too much is told, and nothing of it is read further', async () => {
  const many = Object.fromEntries(Array.from({ length: 5_100 }, (_, i) => [`${i}.md`, 'x']));
  await expect(droppedFiles(dropOf({ many }))).rejects.toThrow('“many” holds more than 5,000 files or 60 MB');
});

test('an empty folder is nothing', async () => {
  expect(await droppedFiles(dropOf({ empty: { inner: {} } }))).toEqual([]);
});
