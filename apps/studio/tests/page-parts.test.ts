/** What a design may say besides filters and cards: what is refused, what a page is made of, what becomes of logos. */
import { completeTuning, type InterfaceDocument } from '@yucca/contract';
import { cleanSvg } from '../src/server/interfaces/clean-svg';
import { designProblems } from '../src/server/interfaces/design-problems';
import { House, lines } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  const { collections, tunings } = house.yucca;
  await collections.create({ name: 'plants', title: 'Plants', key: 'sku' });
  await collections.create({ name: 'guides', title: 'Guides' });
  await tunings.replaceDraft('plants', {
    facets: [{ name: 'price', field: 'price', kind: 'numbers' }],
    sorts: [{ name: 'cheap', label: 'Cheapest', by: [{ field: 'price' }] }],
  });
  await tunings.publish('plants', null);
  const plants = [
    { sku: 7, name: 'Dog rose', price: 9, was: 12, isNew: true },
    { sku: "it's", name: 'Fern', price: 3, isNew: false },
  ];
  await house.load('plants', lines(plants), 'application/x-ndjson');
  house.yucca.interfaces.create({ slug: 'shop', collection: 'plants' });
});
afterAll(() => house.leave());

const problemsOf = (design: Partial<InterfaceDocument>, before: InterfaceDocument | null = null): string[] =>
  designProblems({ collection: 'plants', ...design }, before, {
    has: (name) => ['plants', 'guides'].includes(name),
    tuningOf: (name) => completeTuning(house.yucca.tunings.get(name, 'live')),
  }).map(({ pointer }) => pointer);

test('what cannot be is refused by its place', () => {
  expect(
    problemsOf({
      badges: [{ label: 'New', where: 'isNew = TRUE' }, { label: 'Broken', where: 'price <' }],
      link: 'https://shop.example/{id',
      formats: { price: { currency: 'GBP', unit: 'cm' }, 'a/b~c': { currency: 'GBP', unit: 'cm' }, was: { unit: 'cm' } },
      shelves: [
        { from: 'sorted', label: 'Cheap', sort: 'cheap' },
        { from: 'sorted', label: 'Dear', sort: 'dear' },
        { from: 'sorted', label: 'By what?' },
        { from: 'found', label: 'Gone', collection: 'gone' },
        { from: 'chosen', label: 'None yet' },
      ],
      autocomplete: [
        { from: 'address', label: 'Offers', address: 'https://shop.example/{q}' },
        { from: 'address', label: 'Who?' },
        { from: 'address', label: 'Where?', address: 'https://{q}:x' },
      ],
    }),
  ).toEqual([
    ...['/autocomplete/1/address', '/autocomplete/2/address', '/shelves/3/collection', '/shelves/1/sort'],
    ...['/shelves/2/sort', '/badges/1/where', '/link', '/formats/price', '/formats/a~1b~0c'],
  ]); // prettier-ignore
  expect(problemsOf({ link: 'https://shop.example/' })).toEqual(['/link']);
  expect(problemsOf({ link: '/p/{id}' })).toEqual([]);
});

test('what was there and has gone since is no problem of whoever changes something else', () => {
  const gone: Partial<InterfaceDocument> = {
    shelves: [{ from: 'found', label: 'Gone', collection: 'gone' }, { from: 'sorted', label: 'Old', sort: 'old' }],
  }; // prettier-ignore
  expect(problemsOf(gone)).toHaveLength(2);
  expect(problemsOf({ ...gone, title: 'Other' }, { collection: 'plants', ...gone })).toEqual([]);
});

test('a page has what is needed to draw them; what has gone is left out', () => {
  const { interfaces } = house.yucca;
  interfaces.put('shop', {
    collection: 'plants',
    currency: 'GBP',
    card: { number: 'price', former: 'was' },
    formats: { was: { decimals: 0 } },
    badges: [{ label: 'New', where: 'isNew = TRUE', colour: '#ffffff' }],
    layout: 'table',
    shelves: [
      { from: 'chosen', label: 'Ours', ids: ['7', "it's"] },
      { from: 'found', label: 'Guides', collection: 'guides', size: 2 },
    ],
  });
  const page = interfaces.page('shop');
  expect(page.formats).toEqual({ price: { currency: 'GBP' }, was: { decimals: 0 } });
  expect(page.facets[0]!.format).toEqual({ currency: 'GBP' });
  expect(page.badges).toEqual([{ label: 'New', where: 'isNew = TRUE', colour: '#ffffff', ink: '#000000' }]);
  expect(page.table!.map(({ field }) => field)).toEqual(['name', 'price']);
  expect(page.shelves).toMatchObject([
    { from: 'chosen', collection: 'plants', at: '/s/shop', filter: `"sku" IN ('7', 'it''s') OR "sku" IN (7)` },
    { from: 'found', collection: 'guides', at: '/s/guides', size: 2 },
  ]);
});

test('chosen records are found by their keys, whether those are texts or numbers', async () => {
  const { filter } = house.yucca.interfaces.page('shop').shelves![0]!;
  const { results } = await house.yucca.search.search('plants', { filter: filter!, conditions: ['isNew = TRUE'] });
  expect(results.map(({ id, meets }) => [id, meets]).sort()).toEqual([['7', [0]], ["it's", undefined]]); // prettier-ignore
});

describe('logos', () => {
  const png = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, 1, 2, 3]);

  test('a picture becomes a file that the design may name; another page does not have it', () => {
    const { interfaces } = house.yucca;
    const name = interfaces.addLogo('shop', png);
    expect(name).toMatch(/^[0-9a-f]{40}\.png$/);
    expect(interfaces.addLogo('shop', png)).toBe(name);
    expect(interfaces.logo('shop', name)).toMatchObject({ type: 'image/png', bytes: png });
    expect(interfaces.put('shop', { collection: 'plants', header: { logo: name } }).document.header).toEqual({
      logo: name,
    });
    expect(interfaces.page('shop').header).toMatchObject({ logo: name, name: 'Plants' });
    expect(() => interfaces.put('shop', { collection: 'plants', header: { logo: `${'0'.repeat(40)}.png` } })).toThrow(
      'no such file',
    );
    expect(() => interfaces.create({ slug: 'other', collection: 'plants', header: { logo: name } })).toThrow(
      'no such file',
    );
    expect(interfaces.logo('guides', name)).toBeNull();
  });

  test('a page that nobody has designed yet takes one too', () => {
    const { interfaces } = house.yucca;
    const name = interfaces.addLogo('guides', png);
    expect(interfaces.replaceDraft('guides', { collection: 'guides', header: { logo: name } }).header).toEqual({
      logo: name,
    });
    expect(() => interfaces.addLogo('nowhere', png)).toThrow('nowhere');
  });

  test('what is no picture is refused, whatever it is called, and so is too large a one', () => {
    const { interfaces } = house.yucca;
    for (const bytes of ['GIF89a', '<html><svg></svg></html>', '', '<?xml version="1.0"?><note/>', '\u0000'])
      expect(() => interfaces.addLogo('shop', Buffer.from(bytes))).toThrow('PNG, JPEG or SVG');
    expect(() => interfaces.addLogo('shop', Buffer.concat([png, Buffer.alloc(200_000)]))).toThrow('200 kB');
  });

  test('of an SVG its drawing stays, and nothing that runs, asks or leads away', () => {
    const clean = cleanSvg(`<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY x "y">]>
      <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 8 8" onload="alert(1)">
        <script>alert(2)</script><style>@import url(https://evil.example)</style>
        <foreignObject><body xmlns="http://www.w3.org/1999/xhtml"><img src="x" onerror="alert(3)"/></body></foreignObject>
        <defs><linearGradient id="g" gradientUnits="userSpaceOnUse"><stop offset="1" stop-color="#fff"/></linearGradient></defs>
        <a href="javascript:alert(4)"><rect width="8" height="8" fill="url(#g)"/></a>
        <image href="https://evil.example/x.png"/><use xlink:href="#g"/><use href="https://evil.example/#x"/>
        <path d="M0 0h8" fill="url(https://evil.example/#g)" style="fill:url(https://evil.example)"/>
        <animate attributeName="href" to="javascript:alert(5)"/><set attributeName="onclick" to="alert(6)"/>
      </svg>`)!;
    expect(clean).toContain('viewBox="0 0 8 8"');
    expect(clean).toContain('<linearGradient id="g" gradientUnits="userSpaceOnUse">');
    expect(clean).toContain('fill="url(#g)"');
    expect(clean).toMatch(/<use href="#g"/);
    expect(clean).not.toMatch(/script|alert|evil|on\w+=|foreignObject|image|style|animate|<set|javascript|ENTITY/i);
    expect(cleanSvg('<p>no</p>')).toBeNull();
  });
});
