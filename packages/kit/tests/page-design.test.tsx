/** @jest-environment jsdom */
/** What a design may say of a page besides its filters and its card, drawn by the whole view. */
import type { InterfacePage, SearchAnswer, SearchRequest } from '@yucca/contract';
import { act, cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import {
  createMemory,
  EMPTY_QUERY,
  figure,
  inOrder,
  isStart,
  recordLink,
  SearchState,
  shelvesBeside,
  shownHit,
  withLabels,
  type Query,
  type YuccaClient,
} from '../src/index.ts';
import { SearchView, Shelves } from '../src/react/index.ts';
import { textsOf } from '../src/texts/index.ts';
import { answerWith, pageWith, plants } from './answers.ts';

const CARD = { title: 'name', picture: null, text: null, number: 'price', detail: null };
const records: SearchAnswer['results'] = [
  { id: 'P-1', record: { name: 'Fern', price: 4.5, height: 30, kinds: ['a', 'b'], safe: true }, marks: { '/name': [[0, 4]] }, snippets: {}, meets: [1] },
  { id: 'P-2', record: { name: 'Rose', price: 12, height: null, safe: false }, marks: {}, snippets: {} },
]; // prettier-ignore

type Asked = SearchRequest & { collection: string };

function show(more: Partial<InterfacePage>, query: Query = EMPTY_QUERY, memory = createMemory('design', null)) {
  window.history.replaceState(null, '', '/s/nursery');
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const calls: Asked[][] = [];
  const answerOf = ({ collection, filter }: Asked): SearchAnswer =>
    collection === 'guides'
      ? answerWith({ total: 7, results: [{ id: 'G-1', record: { name: 'Ferns indoors' }, marks: {}, snippets: {} }] })
      : answerWith({ total: 2, results: filter ? [...records].reverse() : records });
  const multiSearch = async (queries: readonly Asked[]) => {
    calls.push([...queries]);
    return queries.map(answerOf);
  };
  const search = async (collection: string, request: SearchRequest) =>
    (await multiSearch([{ collection, ...request }]))[0]!;
  const page = pageWith({ card: CARD, ...more });
  const view = (
    <SearchView page={page} client={{ search, multiSearch } as unknown as YuccaClient} memory={memory} query={query} />
  );
  return { calls, ...render(view) };
}

const settle = (): Promise<void> => act(() => new Promise<void>((resolve) => setTimeout(resolve, 150)));

describe('where a result leads', () => {
  test('the key, fields at any depth, and what an address may not hold', () => {
    const record = { slug: 'dog rose/1', shop: { url: 'https://shop.example/x?a=1' }, bad: 'javascript:alert(1)' };
    expect(recordLink('/p/{id}', 'a/b', record)).toBe('/p/a%2Fb');
    expect(recordLink('https://shop.example/{slug}?ref={id}', 'P', record)).toBe(
      'https://shop.example/dog%20rose%2F1?ref=P',
    );
    expect(recordLink('{shop.url}', 'P', record)).toBe('https://shop.example/x?a=1');
    expect(recordLink('{bad}', 'P', record)).toBeUndefined();
    expect(recordLink('/p/{gone}', 'P', record)).toBeUndefined();
  });

  test('whatever a record holds, it is a web address or none', () => {
    fc.assert(
      fc.property(fc.constantFrom('{f}', '/p/{f}', 'https://shop.example/{f}/{id}'), fc.string(), (pattern, f) => {
        const link = recordLink(pattern, 'P', { f });
        if (link === undefined) return;
        const url = new URL(link, 'https://page.example');
        expect(['https:', 'http:']).toContain(url.protocol);
        if (pattern !== '{f}') expect(url.host).toBe(pattern.startsWith('/') ? 'page.example' : 'shop.example');
      }),
    );
  });

  test('cards lead there, and what was looked at remembers it', async () => {
    const memory = createMemory('design', null);
    show({ link: 'https://shop.example/{id}' }, EMPTY_QUERY, memory);
    const link = await screen.findByRole('link', { name: 'Fern' });
    expect(link.getAttribute('href')).toBe('https://shop.example/P-1');
    link.addEventListener('click', (event) => event.preventDefault());
    await userEvent.click(link);
    expect(memory.viewed()[0]).toMatchObject({ id: 'P-1', href: 'https://shop.example/P-1' });
  });
});

test('numbers are written as their fields are: with a unit, a currency, so many decimals', async () => {
  expect(figure(1234.5, { unit: 'cm' })).toBe('1,234.5\u00a0cm');
  expect(figure(4, { currency: 'GBP' })).toBe('£4.00');
  expect(figure(4, { currency: 'JPY', decimals: 0 }, 'ja')).toBe('￥4');
  expect(figure(4.126, { decimals: 1 }, 'de')).toBe('4,1');
  expect(textsOf('de').figure(1234.5, { unit: 'kg', decimals: 2 })).toBe('1.234,50\u00a0kg');
  // What a field may be called says nothing of what is written.
  show({ formats: { price: { unit: 'each', decimals: 2 } }, card: { ...CARD, number: 'price' } });
  expect((await screen.findAllByText('4.50 each')).length).toBe(1);
});

test('a second line is marked and says what was found, as the first does', () => {
  const marks: SearchAnswer['results'][number]['marks'] = { '/genus': [[0, 5]] };
  const result = { ...records[0]!, record: { name: 'Fern', genus: 'Nephrolepis' }, marks };
  const hit = shownHit(result, { ...CARD, second: 'genus' });
  expect(hit.second).toMatchObject({ text: 'Nephrolepis', ranges: [[0, 5]] });
  expect(hit.elsewhere).toBeNull();
});

test('badges stand on the results that meet their condition, and the conditions are asked for', async () => {
  const { calls } = show({
    badges: [
      { label: 'Small', where: 'height < 10' },
      { label: 'Cheap', where: 'price < 5', colour: '#ffee00', ink: '#000000' },
    ],
  });
  const badge = await screen.findByText('Cheap');
  expect(badge.closest('[data-part=card]')!.textContent).toContain('Fern');
  expect(badge.style.color).toBe('rgb(0, 0, 0)');
  expect(screen.queryByText('Small')).toBeNull();
  expect(calls[0]![0]!.conditions).toEqual(['height < 10', 'price < 5']);
});

test('a table has a row for each result, a heading for each column, and says each value as it is written', async () => {
  show({
    layout: 'table',
    table: ['name', 'price', 'height', 'kinds', 'safe', 'gone'].map((field) => ({ field, label: field.toUpperCase() })),
    formats: { height: { unit: 'cm' } },
    currency: 'GBP',
  });
  const table = await screen.findByRole('table');
  expect(
    within(table)
      .getAllByRole('columnheader')
      .map(({ textContent }) => textContent),
  ).toEqual(
    ['NAME', 'PRICE', 'HEIGHT', 'KINDS', 'SAFE', 'GONE'], // prettier-ignore
  );
  const rows = within(table).getAllByRole('row').slice(1);
  expect(rows.map((row) => within(row).getByRole('rowheader').textContent)).toEqual(['Fern', 'Rose']);
  expect(rows.map((row) => within(row).getAllByRole('cell').map(({ textContent }) => textContent))).toEqual([
    ['4.5', '30\u00a0cm', 'a, b', '✓', '–'],
    ['12', '–', '–', '–', '–'],
  ]); // prettier-ignore
  expect(within(rows[0]!).getByText('Fern').tagName).toBe('MARK');
  expect(screen.getByRole('group', { name: 'Nursery' }).getAttribute('tabindex')).toBe('0');
});

test('values of a filter stand in the order of their names where the design says so', async () => {
  const values = ['white', 'amber', 'Élan', 'rose'].map((value) => ({
    value,
    label: value,
    count: 1,
    selected: false,
  }));
  const facets = { colour: { kind: 'values' as const, label: 'Colour', values, more: false, missing: 0 } };
  const inOrderOf = (order?: 'label') =>
    withLabels(answerWith({ facets }), [{ name: 'colour', kind: 'values', label: 'Colour', ...(order && { order }) }])!
      .facets.colour;
  expect(inOrderOf('label')).toMatchObject({ values: ['amber', 'Élan', 'rose', 'white'].map((value) => ({ value })) });
  expect(inOrderOf()).toBe(facets.colour);
});

describe('shelves', () => {
  const shelf = { size: 3, collection: 'plants', card: CARD, at: '/s/nursery' };
  const shelves: NonNullable<InterfacePage['shelves']> = [
    { ...shelf, from: 'chosen', label: 'Our choice', ids: ['P-1', 'P-2'], filter: `"id" IN ('P-1', 'P-2')` },
    { ...shelf, from: 'viewed', label: 'Looked at before' },
    { ...shelf, from: 'found', label: 'Guides', collection: 'guides', at: '/s/growing' },
  ];

  test('before a search: chosen records as they were chosen, in the request of the results; what was viewed comes last', async () => {
    const memory = createMemory('design', null);
    memory.addViewed({ collection: 'plants', id: 'P-9', text: 'Oak' });
    memory.addViewed({ collection: 'guides', id: 'G-9', text: 'A guide' });
    const { calls, container } = show({ shelves }, EMPTY_QUERY, memory);
    await screen.findByText('Our choice');
    await settle();
    expect(calls).toHaveLength(1);
    expect(calls[0]!.map(({ collection, filter, record }) => [collection, filter, record])).toEqual([
      ['plants', undefined, undefined],
      ['plants', `"id" IN ('P-1', 'P-2')`, false],
    ]);
    const parts = [...container.querySelectorAll('[data-part=shelf], [data-part=found]')];
    expect(parts.map((part) => part.getAttribute('aria-label') ?? 'results')).toEqual(
      ['Our choice', 'results', 'Looked at before'], // prettier-ignore
    );
    expect([...parts[0]!.querySelectorAll('h2')].map(({ textContent }) => textContent)).toEqual(['Fern', 'Rose']);
    expect([...parts[2]!.querySelectorAll('h2')].map(({ textContent }) => textContent)).toEqual(['Oak']);
  });

  test('while something is asked for: what another collection has for it, and the way to all of it', async () => {
    const { calls, container } = show({ shelves }, { ...EMPTY_QUERY, q: 'fern' });
    const found = await screen.findByRole('region', { name: 'Guides' });
    expect(calls).toHaveLength(1);
    expect(calls[0]!.map(({ collection, q }) => [collection, q])).toEqual([
      ['plants', 'fern'],
      ['guides', 'fern'],
    ]);
    expect(within(found).getByText('7')).toBeTruthy();
    expect(within(found).getByRole('link', { name: 'All 7: Guides' }).getAttribute('href')).toBe('/s/growing?q=fern');
    expect(container.querySelectorAll('[data-part=shelf]')).toHaveLength(1);
  });

  test('on a foreign site the way to all of it leads to the server; without a page of its own there is none', async () => {
    const found = { ...shelves[2]!, size: 1 };
    const answer = answerWith({ total: 7, results: 1 });
    const draw = (at: string) =>
      render(
        <Shelves
          page={pageWith({ shelves: [{ ...found, at }] })}
          query={{ ...EMPTY_QUERY, q: 'fern' }}
          beside={[answer]}
          memory={createMemory('design', null)}
          recordHref={({ id }) => `#${id}`}
          navigate={null}
          picturesFrom="https://search.example"
        />,
      );
    draw('/s/growing');
    const link = screen.getByRole('link', { name: 'All 7: Guides' });
    expect(link.getAttribute('href')).toBe('https://search.example/s/growing?q=fern');
    cleanup();
    draw('');
    expect(screen.queryByRole('link', { name: 'All 7: Guides' })).toBeNull();
  });

  test('the text before a search, with or without all records', async () => {
    const { container } = show({ start: { text: 'Welcome', results: false }, shelves: [] });
    expect(await screen.findByText('Welcome')).toBeTruthy();
    expect(container.querySelector('[data-part=found]')).toBeNull();
    await userEvent.type(screen.getByRole('combobox'), 'f');
    expect(await screen.findByText('Rose')).toBeTruthy();
    expect(screen.queryByText('Welcome')).toBeNull();
  });

  test('only a page that nothing has been asked of yet is at its start', () => {
    expect(isStart(EMPTY_QUERY)).toBe(true);
    for (const more of [
      { q: 'a' },
      { select: { c: ['x'] } },
      { sort: 'new' },
      { near: { lat: 1, lng: 2 } },
      { page: 2 },
    ])
      expect(isStart({ ...EMPTY_QUERY, ...more })).toBe(false);
  });

  test('a shelf whose collection does not answer is left out, and the results stay', async () => {
    const client = {
      search: async () => answerWith({ results: 1 }),
      multiSearch: async () => [
        answerWith({ results: plants(1) }),
        { type: 'about:blank', title: 'Gone', status: 404, detail: '' },
      ],
    };
    const state = new SearchState({
      client,
      collection: 'plants',
      beside: shelvesBeside({ shelves }),
      query: { ...EMPTY_QUERY, q: 'x' },
    });
    await state.refresh();
    expect(state.snapshot()).toMatchObject({ status: 'idle', beside: [null, null, null] });
    expect(state.snapshot().answer!.total).toBe(1);
  });

  test('records that are in no list of keys keep their order', () => {
    const some = ['c', 'a', 'b'].map((id) => ({ id }));
    expect(inOrder({}, some).map(({ id }) => id)).toEqual(['c', 'a', 'b']);
    expect(inOrder({ ids: ['b', 'c'] }, some).map(({ id }) => id)).toEqual(['b', 'c', 'a']);
  });
});
