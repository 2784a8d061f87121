import { Clock } from '../src/server/clock';
import { PreviewTokens } from '../src/server/interfaces/preview-tokens';
import { tagOf } from '../src/server/versions/versions';
import { House } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  const { collections, tunings } = house.yucca;
  await collections.create({ name: 'plants', title: 'Plants' });
  await collections.create({ name: 'guides', title: 'Guides' });
  await tunings.replaceDraft('plants', {
    facets: [
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
    ],
    sorts: [{ name: 'cheap', label: 'Cheapest', by: [{ field: 'price' }] }],
  });
  await tunings.publish('plants', null);
});
afterAll(() => house.leave());

describe('a draft of a page', () => {
  const only = { collection: 'plants', columns: 4 };

  test('is nobody’s but its maker’s until it is published; every version stays and can come back', () => {
    const { interfaces } = house.yucca;
    interfaces.create({ slug: 'drafted', collection: 'plants' });
    interfaces.replaceDraft('drafted', only);
    expect(interfaces.page('drafted').columns).toBe(3);
    expect(interfaces.page('drafted', 'draft').columns).toBe(4);
    expect(interfaces.get('drafted')).toMatchObject({ liveVersion: 1, draftChanged: true });
    expect(interfaces.publish('drafted', 'Wider')).toBe(2);
    expect(interfaces.page('drafted').columns).toBe(4);
    expect(interfaces.get('drafted').draftChanged).toBe(false);
    // Without a draft there is nothing to publish.
    expect(interfaces.publish('drafted', 'Again')).toBe(2);
    interfaces.patchDraft('drafted', { columns: null, paging: 'endless' });
    expect(interfaces.get('drafted', 'draft').document).toEqual({ collection: 'plants', paging: 'endless' });
    interfaces.discardDraft('drafted');
    expect(interfaces.get('drafted', 'draft').document).toEqual(only);
    interfaces.replaceDraft('drafted', interfaces.get('drafted', 1).document);
    interfaces.publish('drafted', null);
    expect(interfaces.versions('drafted').map(({ version, note, live }) => [version, note, live])).toEqual([
      [3, null, true],
      [2, 'Wider', false],
      [1, 'As created', false],
    ]);
    expect(() => interfaces.get('drafted', 9)).toThrow('version 9');
    interfaces.remove('drafted');
    // What is made later under this name has no past.
    interfaces.create({ slug: 'drafted', collection: 'plants' });
    expect(interfaces.versions('drafted')).toHaveLength(1);
    expect(interfaces.get('drafted', 'draft').document).toEqual({ collection: 'plants' });
    interfaces.remove('drafted');
  });

  test('is not saved over another one that somebody has saved meanwhile', () => {
    const { interfaces } = house.yucca;
    interfaces.create({ slug: 'twice', collection: 'plants' });
    const mine = tagOf(interfaces.get('twice', 'draft').document);
    interfaces.replaceDraft('twice', only, mine);
    expect(() => interfaces.replaceDraft('twice', { collection: 'plants' }, mine)).toThrow('changed elsewhere');
    expect(interfaces.get('twice', 'draft').document).toEqual(only);
    interfaces.remove('twice');
  });

  test('makes an interface of the page that a collection has by itself', () => {
    const { interfaces } = house.yucca;
    expect(() => interfaces.get('guides')).toThrow('no interface');
    // What is refused makes none.
    expect(() => interfaces.replaceDraft('guides', { collection: 'guides' }, '"stale"')).toThrow('changed elsewhere');
    expect(() => interfaces.get('guides')).toThrow('no interface');
    interfaces.replaceDraft('guides', { collection: 'guides', layout: 'rows' });
    expect(interfaces.page('guides').layout).toBe('cards');
    expect(interfaces.page('guides', 'draft').layout).toBe('rows');
    expect(() => interfaces.replaceDraft('nowhere', only)).toThrow('nowhere');
    interfaces.remove('guides');
  });

  test('is shown by a signed address, for its own page and for a time', () => {
    const { interfaces } = house.yucca;
    const { address, expiresAt } = interfaces.preview('plants', 60);
    const token = new URL(address, 'http://x').searchParams.get('preview')!;
    expect(address).toMatch(/^\/s\/plants\?preview=/);
    expect(Date.parse(expiresAt) - Date.now()).toBeGreaterThan(50_000);
    expect(interfaces.opensDraft('plants', token)).toBe(true);
    expect(interfaces.opensDraft('guides', token)).toBe(false);
    expect(interfaces.opensDraft('plants', `${token.slice(0, -2)}AA`)).toBe(false);
    expect(interfaces.opensDraft('plants', 'nonsense')).toBe(false);
    const past = new PreviewTokens(Buffer.alloc(32), new Clock(0, () => 1_000_000));
    const old = past.make('plants', 1);
    expect(new PreviewTokens(Buffer.alloc(32), new Clock(0, () => 1_003_000)).opens('plants', old.token)).toBe(false);
    expect(() => interfaces.preview('nowhere', 60)).toThrow('nowhere');
  });
});

test('what a page shows of facets, sorts and its looks', () => {
  const { interfaces } = house.yucca;
  const looks = {
    collection: 'plants',
    facets: ['price', { name: 'colour', label: 'Colours', control: 'swatches' as const, shown: 3, folded: true }],
    sorts: ['cheap'],
    filters: 'right' as const,
    theme: { light: { accent: '#123456' }, corner: 0, text: 'slab' as const },
    header: { links: [{ label: 'Home', href: 'https://quillbrook.example/' }] },
  };
  interfaces.create({ slug: 'looks', ...looks });
  const page = interfaces.page('looks');
  expect(page.facets).toEqual([
    { name: 'price', kind: 'numbers', label: 'Price' },
    { name: 'colour', kind: 'values', label: 'Colours', control: 'swatches', shown: 3, folded: true },
  ]);
  expect(page).toMatchObject({ filters: 'right', columns: 3, density: 'roomy' });
  expect(page.header).toEqual({ name: 'Plants', links: looks.header.links });
  expect(page.theme).toMatchObject({ '--yucca-accent': 'light-dark(#123456, #7cc4a8)', '--yucca-corner': '0px' });
  const refused = (document: object) => () => interfaces.replaceDraft('looks', { collection: 'plants', ...document });
  expect(refused({ facets: [{ name: 'price', control: 'swatches' }] })).toThrow('range, steps');
  expect(refused({ facets: ['price', { name: 'price' }] })).toThrow('twice');
  expect(refused({ sorts: ['dear'] })).toThrow('dear');
  expect(refused({ theme: { light: { accent: 'red' } } })).toThrow('/theme/light/accent');
  for (const href of ['javascript:alert(1)', '//elsewhere.example', '/\\elsewhere.example', 'data:text/html,x'])
    expect(refused({ header: { links: [{ label: 'x', href }] } })).toThrow('/header/links/0/href');
});

test('own CSS reaches the page below it, and what would leave the page is refused by its line', () => {
  const { interfaces } = house.yucca;
  interfaces.create({ slug: 'own', collection: 'plants', css: 'h2 { color: red }' });
  expect(interfaces.page('own').css).toBe('[data-yucca][data-yucca][data-yucca] h2{color:red}');
  expect(interfaces.page('plants').css).toBeUndefined();
  const bad = { collection: 'plants', css: 'h2 { color: red }\n@import url(https://elsewhere.example);' };
  expect(() => interfaces.replaceDraft('own', bad)).toThrow('/css: line 2, column 1: @import');
  expect(() => interfaces.put('own', bad)).toThrow('@import');
  expect(() => interfaces.create({ slug: 'own-2', ...bad })).toThrow('@import');
  expect(interfaces.get('own').draftChanged).toBe(false);
});
