import { strFromU8 } from 'fflate';
import { DomUtils, parseDocument } from 'htmlparser2';
import fc from 'fast-check';
import { originsIn } from '../src/features/page/hand-over/take-away';
import { asHtml, asMarkdown } from '../src/server/handover/escape';
import { unpacked } from './archive';
import { House } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants', title: 'Plants' });
  await house.yucca.collections.create({ name: 'guides', title: 'Guides' });
});
afterAll(() => house.leave());

const SERVER = 'https://search.example';
const filesOf = async (pieces: AsyncIterable<string | Uint8Array>): Promise<Record<string, string>> =>
  Object.fromEntries(Object.entries(await unpacked(pieces)).map(([name, content]) => [name, strFromU8(content)]));

test('one HTML file, with a key that can search what is on the page and nothing else', async () => {
  const { interfaces, handovers, keys } = house.yucca;
  interfaces.create({
    slug: 'nursery',
    title: 'Nursery',
    collection: 'plants',
    theme: { light: { accent: '#123456' }, corner: 3 },
    header: { name: 'Our plants', links: [{ label: 'Home', href: '/home' }] },
    autocomplete: [{ from: 'records', label: 'Guides', collection: 'guides' }],
  });
  const origins = ['https://shop.example'];
  const { pieces, fileName, madeKey } = await handovers.make('nursery', { target: 'html', origins }, SERVER);
  expect(fileName).toBe('nursery-html.zip');
  const files = await filesOf(pieces);
  expect(Object.keys(files)).toEqual(['nursery/index.html', 'nursery/README.md']);
  const page = files['nursery/index.html']!;
  const secret = /key="(yk_[\w-]+)"/.exec(page)![1]!;
  expect(page).toContain(`<script src="${SERVER}/yucca-search.js" defer></script>`);
  expect(page).toContain('--yucca-accent: light-dark(#123456, #7cc4a8);');
  expect(page).toContain(`<a href="${SERVER}/home">Home</a>`);
  expect(files['nursery/README.md']).toContain('`https://shop.example`, and nowhere else');
  expect(keys.list().find(({ id }) => id === madeKey!.id)).toMatchObject({
    label: 'Nursery, handed over',
    rights: ['search'],
    collections: ['plants', 'guides'],
    origins,
  });
  expect(keys.bySecret(secret)).toMatchObject({ keyId: madeKey!.id });
});

test('with a key that is there, a placeholder stands for its secret', async () => {
  const { handovers, keys } = house.yucca;
  const { key, secret } = keys.create({ label: 'Mine', rights: ['search'] });
  const before = keys.list().length;
  const { pieces, madeKey } = await handovers.make('plants', { target: 'html', key: key.id }, SERVER);
  const page = (await filesOf(pieces))['plants/index.html']!;
  expect(madeKey).toBeNull();
  expect(page).toContain('key="YOUR-SEARCH-KEY"');
  expect(page).not.toContain(secret);
  await expect(handovers.make('plants', { target: 'html', key: 'nobody' }, SERVER)).rejects.toThrow('nobody');
  await expect(handovers.make('nowhere', { target: 'html' }, SERVER)).rejects.toThrow('nowhere');
  // What was refused has made no key.
  expect(keys.list()).toHaveLength(before);
});

test('no title ends its element, and none is markup', () => {
  const hostile = fc.oneof(
    fc.string(),
    fc.constantFrom('</title><script>', '"><img src=x onerror=1>', "'", '&amp;', '[x](javascript:1)', '\n# x'),
  );
  fc.assert(
    fc.property(hostile, (text) => {
      const tree = parseDocument(`<p title="${asHtml(text)}">${asHtml(text)}</p>`);
      expect(DomUtils.getElementsByTagName('*', tree, true).map(({ name }) => name)).toEqual(['p']);
      expect(DomUtils.getElementsByTagName('p', tree, true)[0]!.attribs.title).toBe(text.replace(/\r\n?/g, '\n'));
      expect(asMarkdown(text)).not.toMatch(/\n|(?<!\\)[<[`]/);
    }),
  );
});

test('origins are read as they are typed', () => {
  expect(originsIn(' https://shop.example/a?b, http://localhost:8080\nhttps://shop.example ')).toEqual([
    'https://shop.example',
    'http://localhost:8080',
  ]);
  expect(originsIn('shop.example')).toEqual(['shop.example']);
  expect(originsIn('')).toEqual([]);
});

describe('what would be taken away', () => {
  test('files as they are now, beside those of the version that was last taken', async () => {
    const { interfaces, handovers, audit } = house.yucca;
    interfaces.create({ slug: 'seen', title: 'Seen', collection: 'plants', header: { name: 'Before' } });
    const textOf = async (version: 'live' | number): Promise<string> => {
      const { files } = await handovers.see('seen', 'html', SERVER, version);
      return files.find(({ path }) => path === 'index.html')!.text!;
    };
    expect(await textOf('live')).toContain('key="YOUR-SEARCH-KEY"');
    expect((await handovers.see('seen', 'html', SERVER, 'live')).taken).toBeNull();
    const made = await handovers.make('seen', { target: 'html' }, SERVER);
    expect(made.version).toBe(1);
    const note = { actor: 'studio', keyId: null, remote: null, method: 'POST', path: '/interfaces/seen/handover', collection: null }; // prettier-ignore
    audit.note({ ...note, detail: { target: 'html', version: 1 } });
    interfaces.put('seen', { collection: 'plants', title: 'Seen', header: { name: 'After' } });
    const { taken } = await handovers.see('seen', 'html', SERVER, 'live');
    expect(taken).toMatchObject({ version: 1 });
    expect((await handovers.see('seen', 'header', SERVER, 'live')).taken).toBeNull();
    expect([await textOf(1), await textOf('live')]).toEqual([
      expect.stringContaining('<h1>Before</h1>'),
      expect.stringContaining('<h1>After</h1>'),
    ]);
    await expect(handovers.see('seen', 'html', SERVER, 9)).rejects.toThrow('no version 9');
    await expect(handovers.see('seen', 'static', SERVER, 'live')).rejects.toThrow('before it is made');
  });

  test('the page for a colleague has the answers that the collection gives', async () => {
    const plants = Array.from({ length: 30 }, (_, i) => ({ id: `p${i}`, name: `Lavender ${i}`, colour: ['red', 'a`b'][i % 2] })); // prettier-ignore
    await house.yucca.collections.create({ name: 'told', title: 'Told' });
    await house.load('told', JSON.stringify(plants), 'application/json');
    await house.yucca.tunings.patchDraft('told', {
      search: [{ field: 'name', weight: 7 }],
      facets: [{ name: 'colour', field: 'colour' }],
    });
    await house.yucca.tunings.publish('told', null);
    const text = await house.yucca.handovers.guide('told', SERVER);
    expect(text).toContain(`GET ${SERVER}/api/v1/collections/told/search?q=Lavender&`);
    expect(text).toContain('`name` (weight 7)');
    expect(text).toContain('results of 30:');
    expect(text).toContain('"name": "Lavender 0"');
    expect(text).toContain('- `colour` (Colour; values): `ab`, `red`');
    expect(text).not.toMatch(/undefined|\[object/);
  });
});
