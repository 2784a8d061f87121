/** @jest-environment jsdom */
import type { SearchAnswer, SearchRequest } from '@yucca/contract';
import { act, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { createMemory, EMPTY_QUERY, type YuccaClient } from '../src/index.ts';
import { redirectOf } from '../src/index.ts';
import { SearchView, type SearchViewProps } from '../src/react/index.ts';
import { answerWith, pageWith } from './answers.ts';

const page = pageWith({
  card: { title: 'name', picture: null, text: null, number: 'price', detail: null },
  facets: [{ name: 'colour', kind: 'values', label: 'Colour' }],
  sorts: [{ name: 'cheap', label: 'Cheapest' }],
  pageSize: 24,
  currency: 'GBP',
});

function answerTo({ q = '', select }: SearchRequest): SearchAnswer {
  const all = [
    { id: 'P-1', record: { name: 'Dog rose', price: 9 }, marks: {}, snippets: {} },
    { id: 'P-2', record: { name: 'Fern', price: 4.5 }, marks: {}, snippets: {} },
  ];
  const results = all.filter(({ record }) => record.name.toLowerCase().includes(q.toLowerCase()));
  const values = [{ value: 'pink', label: 'Pink', count: 1, selected: select !== undefined }];
  return answerWith({
    query: q,
    size: 24,
    results,
    facets: { colour: { kind: 'values', label: 'Colour', values, more: false, missing: 0 } },
  });
}

function show(more: Partial<SearchViewProps> = {}) {
  window.history.replaceState(null, '', '/s/nursery');
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const asked: SearchRequest[] = [];
  const search = async (_: string, request: SearchRequest) => {
    asked.push(request);
    return answerTo(request);
  };
  const client = { search, multiSearch: async () => [], suggest: async () => ({ q: '', suggestions: [] }) };
  const memory = createMemory('view', null);
  const view = <SearchView page={page} client={client as unknown as YuccaClient} memory={memory} {...more} />;
  return { asked, memory, ...render(view) };
}

const titles = (): string[] => screen.getAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent!);

test('an answer that came with the page is not asked for again', async () => {
  const { asked } = show({ query: EMPTY_QUERY, answer: answerTo({}) });
  expect(titles()).toEqual(['Dog rose', 'Fern']);
  await act(async () => {});
  expect(asked).toEqual([]);
});

test('without one the page asks by itself; every letter asks for what is typed, with what is always asked for', async () => {
  const { asked } = show();
  await waitFor(() => expect(titles()).toHaveLength(2));
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'fe');
  await waitFor(() => expect(titles()).toEqual(['Fern']));
  expect(asked.map(({ q }) => q)).toEqual(['', 'f', 'fe']);
  expect(asked.at(-1)).toMatchObject({ facets: ['colour'], size: 24 });
  // The address follows once typing rests.
  await waitFor(() => expect(window.location.search).toBe('?q=fe'));
  expect(screen.getByText('£4.50')).toBeTruthy();
});

test('a choice is a step of the history and stands above the results until it is taken back', async () => {
  const { asked } = show({ query: EMPTY_QUERY, answer: answerTo({}) });
  const before = window.history.length;
  await userEvent.click(screen.getByRole('checkbox', { name: /Pink/ }));
  expect(asked.at(-1)!.select).toEqual({ colour: ['pink'] });
  expect(window.location.search).toBe('?colour=pink');
  expect(window.history.length).toBe(before + 1);
  await userEvent.click(await screen.findByRole('link', { name: 'Remove Pink' }));
  expect(asked.at(-1)!.select).toBeUndefined();
  await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Sort by' }), 'Cheapest');
  expect(asked.at(-1)!.sort).toBe('cheap');
});

test('typing leaves what it does not change as it is', async () => {
  const drawn: string[] = [];
  const renderResult: SearchViewProps['renderResult'] = ({ id }, card) => {
    drawn.push(id);
    return card;
  };
  // An answer that never comes: only the field changes.
  const client = { search: () => new Promise(() => {}) } as unknown as YuccaClient;
  show({ query: EMPTY_QUERY, answer: answerTo({}), renderResult, client });
  const first = drawn.length;
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'rose');
  expect(drawn.length).toBe(first);
});

test('a result can be drawn otherwise, with the usual card inside', () => {
  show({
    query: EMPTY_QUERY,
    answer: answerTo({}),
    renderResult: ({ id }, card) => (
      <section aria-label={id}>
        {card}
        <button type="button">Into the basket</button>
      </section>
    ),
  });
  expect(screen.getByRole('region', { name: 'P-1' }).textContent).toContain('Dog rose');
  expect(screen.getAllByRole('button', { name: 'Into the basket' })).toHaveLength(2);
});

test('a title leads to its record, and the visit is remembered', async () => {
  const { memory } = show({ query: EMPTY_QUERY, answer: answerTo({}), recordHref: ({ id }) => `#${id}` });
  const link = screen.getByRole('link', { name: 'Fern' });
  expect(link.getAttribute('href')).toBe('#P-2');
  await userEvent.click(link);
  expect(memory.viewed()).toEqual([{ collection: 'plants', id: 'P-2', text: 'Fern' }]);
});

test('nothing found says so and leads on', async () => {
  show({ query: { ...EMPTY_QUERY, q: 'zzz' }, answer: answerTo({ q: 'zzz' }) });
  expect(screen.getByText('Nothing found for “zzz”.')).toBeTruthy();
  await userEvent.click(screen.getByRole('link', { name: 'See everything' }));
  await waitFor(() => expect(titles()).toHaveLength(2));
});

test('where a placement sends a visitor: to the page’s own server or the web, and nowhere else', () => {
  const sentTo = (redirect: string | null): string | null =>
    redirectOf(answerWith(redirect === null ? {} : { redirect }));
  expect(sentTo('/s/collect')).toBe('/s/collect');
  expect(sentTo('https://quillbrook.example/sale')).toBe('https://quillbrook.example/sale');
  expect([sentTo(null), sentTo('javascript:alert(1)'), sentTo('//elsewhere.example'), redirectOf(null)]).toEqual([null, null, null, null]); // prettier-ignore
});

const withAddress = (path: string): void => act(() => window.history.replaceState(null, '', path));

test('a query that is given anew is shown, with the answer that came along or by asking', async () => {
  const client = {
    search: jest.fn(async (_: string, request: SearchRequest) => answerTo(request)),
    suggest: async () => ({ q: '', suggestions: [] }),
  };
  const view = (more: Partial<SearchViewProps>) => (
    <SearchView page={page} client={client as unknown as YuccaClient} memory={createMemory('given', null)} {...more} />
  );
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const { rerender } = render(view({ query: EMPTY_QUERY, answer: answerTo({}) }));
  rerender(view({ query: { ...EMPTY_QUERY, q: 'fern' }, answer: answerTo({ q: 'fern' }) }));
  expect(titles()).toEqual(['Fern']);
  expect(screen.getByRole<HTMLInputElement>('combobox', { name: 'Search Nursery' }).value).toBe('fern');
  expect(client.search).not.toHaveBeenCalled();
  rerender(view({ query: { ...EMPTY_QUERY, q: 'dog' } }));
  await waitFor(() => expect(titles()).toEqual(['Dog rose']));
  // The same again, as a new object: nothing happens.
  rerender(view({ query: { ...EMPTY_QUERY, q: 'dog' } }));
  expect(client.search).toHaveBeenCalledTimes(1);
});

test('an address that was written here and shown again by a cached page is what counts', async () => {
  const { asked, unmount } = show({ query: EMPTY_QUERY, answer: answerTo({}) });
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'fern');
  await waitFor(() => expect(window.location.search).toBe('?q=fern'));
  unmount();
  const { asked: again } = await (async () => {
    const made: SearchRequest[] = [];
    const search = async (_: string, request: SearchRequest) => (made.push(request), answerTo(request));
    const client = { search, suggest: async () => ({ q: '', suggestions: [] }) } as unknown as YuccaClient;
    render(<SearchView page={page} client={client} memory={createMemory('c', null)} answer={answerTo({})} />);
    await waitFor(() => expect(titles()).toEqual(['Fern']));
    return { asked: made };
  })();
  expect(asked.at(-1)!.q).toBe('fern');
  expect(again.map(({ q }) => q)).toEqual(['fern']);
});

test('Back to what was typed: the router’s page of before counts less, the next that it gives counts again', async () => {
  window.history.replaceState(null, '', '/s/nursery');
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const client = { search: async (_: string, request: SearchRequest) => answerTo(request), multiSearch: async () => [], suggest: async () => ({ q: '', suggestions: [] }) }; // prettier-ignore
  const memory = createMemory('view', null);
  const view = (q: string) => {
    const query = { ...EMPTY_QUERY, q };
    return <SearchView page={page} client={client as unknown as YuccaClient} memory={memory} query={query} answer={answerTo({ q })} />; // prettier-ignore
  };
  const { rerender } = render(view(''));
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'dog');
  await waitFor(() => expect(window.location.search).toBe('?q=dog'));
  const typed = window.history.state as object;
  // A link of the router, with an answer of its server; then Back, which draws what the server had said before.
  window.history.pushState(null, '', '?q=fern');
  rerender(view('fern'));
  expect(titles()).toEqual(['Fern']);
  await act(async () => {
    window.history.replaceState(typed, '', '?q=dog');
    window.dispatchEvent(new PopStateEvent('popstate', { state: typed }));
  });
  rerender(view(''));
  await waitFor(() => expect(titles()).toEqual(['Dog rose']));
  expect(screen.getByRole('combobox', { name: 'Search Nursery' })).toHaveProperty('value', 'dog');
  rerender(view('fern'));
  await waitFor(() => expect(titles()).toEqual(['Fern']));
});

test('links, offers and redirects go the way of a router', async () => {
  const went: string[] = [];
  const navigate = (href: string): unknown => went.push(href);
  show({ query: EMPTY_QUERY, answer: answerTo({}), navigate });
  await userEvent.click(screen.getByRole('link', { name: 'Fern' }));
  expect(went).toEqual(['/s/nursery/r/P-2']);
});

test('a state that is nobody’s business is not in the address', async () => {
  const { asked } = show({ address: 'none' });
  withAddress('/s/nursery?q=theirs');
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'fern');
  await waitFor(() => expect(titles()).toEqual(['Fern']));
  await new Promise((resolve) => setTimeout(resolve, 250));
  expect(window.location.search).toBe('?q=theirs');
  expect(asked.map(({ q }) => q)).not.toContain('theirs');
});

test('a name of its own stands before each parameter', async () => {
  show({ address: { prefix: 'left' } });
  withAddress('/s/nursery?right.q=rose');
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'fern');
  await waitFor(() => expect(window.location.search).toBe('?left.q=fern&right.q=rose'));
});

test('an entry that is replaced without another address takes nothing back of what is being typed', async () => {
  const changes = new EventTarget();
  Object.assign(window, { navigation: changes });
  show({ query: EMPTY_QUERY, answer: answerTo({}) });
  const field = screen.getByRole<HTMLInputElement>('combobox', { name: 'Search Nursery' });
  await userEvent.type(field, 'fern');
  // As a router does, and whoever keeps the place that was scrolled to; the text is not in the address yet.
  act(() => changes.dispatchEvent(new Event('currententrychange')));
  expect(field.value).toBe('fern');
  await waitFor(() => expect(window.location.search).toBe('?q=fern'));
  withAddress('/s/nursery?q=dog');
  act(() => changes.dispatchEvent(new Event('currententrychange')));
  await waitFor(() => expect(titles()).toEqual(['Dog rose']));
  Reflect.deleteProperty(window, 'navigation');
});

test('a newer answer to what was given before is none to what has been typed since', async () => {
  const client = {
    search: async (_: string, request: SearchRequest) => answerTo(request),
    suggest: async () => ({ q: '', suggestions: [] }),
  } as unknown as YuccaClient;
  const memory = createMemory('newer', null);
  const view = () => <SearchView page={page} client={client} memory={memory} address="none" answer={answerTo({})} />;
  const { rerender } = render(view());
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'fern');
  await waitFor(() => expect(titles()).toEqual(['Fern']));
  rerender(view());
  expect(titles()).toEqual(['Fern']);
});
