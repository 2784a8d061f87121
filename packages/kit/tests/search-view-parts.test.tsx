/** @jest-environment jsdom */
import type { InterfacePage, SearchRequest } from '@yucca/contract';
import { act, fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { createMemory, EMPTY_QUERY, type Query, type YuccaClient } from '../src/index.ts';
import { SearchView } from '../src/react/index.ts';
import { answerWith, pageWith, plants, type AnswerFacts } from './answers.ts';

const colours = {
  colour: {
    kind: 'values' as const,
    label: 'Colour',
    values: [{ value: 'red', label: 'Red', count: 40, selected: false }],
    more: false,
    missing: 0,
  },
};

type Clicked = [queryId: string, recordId: string, position: number];

/** A page over 95 plants whose server answers as told. */
function show(
  more: Partial<InterfacePage>,
  { query = EMPTY_QUERY, answer }: { query?: Query; answer?: (request: SearchRequest) => AnswerFacts } = {},
) {
  window.history.replaceState(null, '', '/s/nursery');
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const asked: SearchRequest[] = [];
  const clicks: Clicked[] = [];
  const usual = ({ page = 1 }: SearchRequest): AnswerFacts => ({
    total: 95,
    page,
    results: plants(20, (page - 1) * 20 + 1),
    facets: colours,
  });
  const search = async (_: string, request: SearchRequest) => {
    asked.push(request);
    return answerWith((answer ?? usual)(request));
  };
  const insights = {
    active: true,
    click: (...click: Clicked) => void clicks.push(click),
    view: () => {},
    convert: () => {},
    flush: () => {},
    noting: (client: YuccaClient) => client,
    search: () => {},
    session: 's',
    viewer: 'v',
  };
  const page = pageWith({ facets: [{ name: 'colour', kind: 'values', label: 'Colour' }], ...more });
  render(
    <SearchView
      page={page}
      client={{ search } as unknown as YuccaClient}
      memory={createMemory('parts', null)}
      query={query}
      recordHref={({ id }) => `#${id}`}
      insights={insights}
    />,
  );
  return { asked, clicks };
}

const titles = (): string[] => screen.queryAllByRole('heading', { level: 2 }).map(({ textContent }) => textContent!);

describe('filters as a sheet', () => {
  const open = async (): Promise<HTMLElement> => {
    await userEvent.click(await screen.findByRole('link', { name: 'Filters' }));
    return screen.getByRole('dialog', { name: 'Filters' });
  };
  // jsdom lays nothing out, so every part of the sheet says that it is in sight.
  beforeEach(() => {
    Object.defineProperty(HTMLElement.prototype, 'offsetParent', { configurable: true, get: () => document.body });
  });

  test('the focus goes in, the page behind stands still, and Escape gives both back', async () => {
    show({});
    const button = await screen.findByRole('link', { name: 'Filters' });
    button.focus();
    const sheet = await open();
    expect(document.activeElement).toBe(sheet);
    expect(document.documentElement.style.overflow).toBe('hidden');
    await userEvent.keyboard('{Escape}');
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(document.documentElement.style.overflow).toBe('');
    expect(document.activeElement).toBe(button);
  });

  test('Tab goes round in it, both ways', async () => {
    show({});
    const sheet = await open();
    const last = within(sheet).getByRole('link', { name: 'See 95 results' });
    await userEvent.tab({ shift: true });
    expect(document.activeElement).toBe(last);
    await userEvent.tab();
    const first = document.activeElement!;
    expect(sheet.contains(first)).toBe(true);
    expect(first).not.toBe(last);
    await userEvent.tab({ shift: true });
    expect(document.activeElement).toBe(last);
  });

  test('a choice is made at once, counted on the button, and the way back says what it leads to', async () => {
    const answer = ({ select }: SearchRequest): AnswerFacts => ({ total: select ? 40 : 95, results: 20, facets: colours }); // prettier-ignore
    const { asked } = show({}, { answer });
    const sheet = await open();
    await userEvent.click(within(sheet).getByRole('checkbox', { name: /Red/ }));
    expect(asked.at(-1)!.select).toEqual({ colour: ['red'] });
    await userEvent.click(await within(sheet).findByRole('link', { name: 'See 40 results' }));
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(screen.getByRole('link', { name: 'Filters (1)' })).toBeTruthy();
  });
});

test('pages that grow: more stands below what is there, and the address says how far', async () => {
  const { asked } = show({ paging: 'more' });
  await waitFor(() => expect(titles()).toHaveLength(20));
  await userEvent.click(screen.getByRole('link', { name: 'Show 20 more of 75' }));
  await waitFor(() => expect(titles()).toHaveLength(40));
  expect(titles()[20]).toBe('Plant 21');
  expect(asked.map(({ page }) => page)).toEqual([1, 2]);
  await waitFor(() => expect(window.location.search).toBe('?page=2'));
  expect(screen.queryByRole('navigation', { name: 'Pages' })).toBeNull();
});

test('numbered pages take the place of each other, and the place of a result counts over all of them', async () => {
  const { clicks } = show({});
  await waitFor(() => expect(titles()).toHaveLength(20));
  await userEvent.click(screen.getByRole('link', { name: 'Page 2' }));
  await userEvent.click(await screen.findByRole('link', { name: 'Page 3' }));
  await waitFor(() => expect(titles()[0]).toBe('Plant 41'));
  expect(window.location.search).toBe('?page=3');
  await userEvent.click(screen.getByRole('link', { name: 'Plant 43' }));
  expect(clicks).toEqual([['q1', 'P-43', 43]]);
});

test('when a search fails the last results stay, with a way to try again', async () => {
  let down = false;
  const { asked } = show(
    {},
    {
      answer: ({ q = '' }) => {
        if (down) throw Object.assign(new Error('The index is being opened.'), { name: 'ProblemError' });
        return { results: plants(q === '' ? 20 : 1), facets: colours };
      },
    },
  );
  await waitFor(() => expect(titles()).toHaveLength(20));
  down = true;
  await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'r');
  const alert = await screen.findByRole('alert');
  expect(alert.textContent).toContain('The search did not answer: The index is being opened.');
  expect(titles()).toHaveLength(20);
  down = false;
  await userEvent.click(within(alert).getByRole('button', { name: 'Try again' }));
  await waitFor(() => expect(titles()).toHaveLength(1));
  expect(screen.queryByRole('alert')).toBeNull();
  expect(asked.map(({ q }) => q)).toEqual(['', 'r', 'r']);
});

test('sending the form asks for good: one step of the history, and the field keeps its text', async () => {
  const { asked } = show({});
  await waitFor(() => expect(titles()).toHaveLength(20));
  const field = screen.getByRole<HTMLInputElement>('combobox', { name: 'Search Nursery' });
  await userEvent.type(field, 'fern');
  const before = window.history.length;
  await userEvent.click(screen.getByRole('button', { name: 'Search' }));
  expect([window.location.search, window.history.length]).toEqual(['?q=fern', before + 1]);
  expect(field.value).toBe('fern');
  expect(asked.at(-1)!.q).toBe('fern');
});

describe('places', () => {
  const at = (i: number) => ({ lat: 47 + i / 10, lng: -18 });
  const gardens = [1, 2].map((n) => ({
    id: `C-${n}`,
    record: { name: `Garden ${n}`, at: at(n) },
    marks: {},
    snippets: {},
    distanceM: n * 11_120,
  }));
  const page: Partial<InterfacePage> = { layout: 'places', geo: 'at', places: [{ name: 'Penden', ...at(0) }] };
  const answer = (): AnswerFacts => ({ results: gardens, facets: colours });

  test('the list and its map point at each other', async () => {
    show(page, { answer });
    const map = await screen.findByRole('img', { name: /^Map of the 2 results/ });
    const [first] = screen.getAllByRole('listitem').filter((item) => item.textContent!.includes('Garden 1'));
    fireEvent.pointerEnter(first!);
    expect(map.querySelector('[data-pointed=true]')!.textContent).toBe('1');
    fireEvent.pointerLeave(first!);
    expect(map.querySelector('[data-pointed=true]')).toBeNull();
    const second = [...map.querySelectorAll('[data-part=map-mark]')].find(({ textContent }) => textContent === '2')!;
    fireEvent.pointerEnter(second);
    expect(screen.getAllByRole('listitem').find(({ dataset }) => dataset.pointed === 'true')!.textContent).toContain(
      'Garden 2',
    );
  });

  test('with a place and no words the nearest come first; with words that order can be chosen', async () => {
    const { asked } = show({ ...page, sorts: [{ name: 'new', label: 'Newest' }] }, { answer });
    const orders = (): string[] => [...screen.getByRole<HTMLSelectElement>('combobox', { name: 'Sort by' }).options].map(({ text }) => text); // prettier-ignore
    await screen.findByRole('img');
    expect(orders()).toEqual(['Best match', 'Newest']);
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Near' }), 'Penden');
    expect(asked.at(-1)).toMatchObject({ near: at(0), sort: 'distance' });
    expect(orders()).toEqual(['Nearest', 'Newest']);
    await userEvent.type(screen.getByRole('combobox', { name: 'Search Nursery' }), 'g');
    await waitFor(() => expect(asked.at(-1)).toMatchObject({ q: 'g', near: at(0) }));
    expect(asked.at(-1)!.sort).toBeUndefined();
    expect(orders()).toEqual(['Best match', 'Newest', 'Nearest first']);
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Sort by' }), 'Nearest first');
    await act(async () => {});
    expect(asked.at(-1)).toMatchObject({ q: 'g', sort: 'distance' });
  });
});

test('an application draws parts itself, with what would be drawn there in hand', async () => {
  window.history.replaceState(null, '', '/s/nursery');
  const found = (request: SearchRequest): AnswerFacts =>
    request.q === 'none' ? { total: 0, results: [], facets: {} } : { total: 95, results: plants(3), facets: colours };
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  const client = { search: async (_: string, request: SearchRequest) => answerWith(found(request)) };
  const page = pageWith({ facets: [{ name: 'colour', kind: 'values', label: 'Colour' }], start: { text: 'Welcome' } });
  render(
    <SearchView
      page={page}
      client={client as unknown as YuccaClient}
      memory={createMemory('own', null)}
      renderHeader={({ answer }) => <h1>Our {answer?.total ?? '…'} plants</h1>}
      renderStart={(_, usual) => (
        <>
          {usual}
          <p>New this week</p>
        </>
      )}
      renderNothing={({ query }, usual) => (
        <>
          <p>Ask us for “{query.q}”</p>
          {usual}
        </>
      )}
      renderFilters={(_, usual) => <aside aria-label="All filters">{usual}</aside>}
      renderFacet={(name, usual) => <section aria-label={`The ${name}`}>{usual}</section>}
      renderResult={(_, card, place) => (
        <>
          {card}
          {place === 2 && <p>We deliver on Saturdays</p>}
        </>
      )}
    />,
  );
  expect(await screen.findByRole('heading', { name: 'Our 95 plants' })).toBeTruthy();
  expect([screen.getByText('Welcome'), screen.getByText('New this week')]).toHaveLength(2);
  const filters = await screen.findByRole('complementary', { name: 'All filters' });
  expect(within(within(filters).getByRole('region', { name: 'The colour' })).getByRole('checkbox')).toBeTruthy();
  expect(screen.getByText('We deliver on Saturdays').closest('li')!.textContent).toContain('Plant 2');
  await userEvent.type(screen.getByRole('combobox'), 'none');
  expect(await screen.findByText('Ask us for “none”')).toBeTruthy();
  expect(screen.getByRole('link', { name: /everything|all/i })).toBeTruthy();
  expect(screen.queryByText('New this week')).toBeNull();
});
