/** @jest-environment jsdom */
import { act, waitFor } from '@testing-library/react';
import { YuccaSearch } from '../src/drop-in/element.tsx';
import type { YuccaClient } from '../src/client.ts';
import { insightsOf } from '../src/drop-in/insights.ts';
import type { InsightsPage } from '../src/insights.ts';
import { answerWith, pageWith } from './answers.ts';

// React checks this before it lets a test wait for what it draws.
(globalThis as { IS_REACT_ACT_ENVIRONMENT?: boolean }).IS_REACT_ACT_ENVIRONMENT = true;

interface Asked {
  url: URL;
  authorization: string | null;
  signal: AbortSignal;
}

let asked: Asked[] = [];
/** What the server says to a request; a promise that never settles is a server that is slow. */
let answers: (asked: Asked) => Promise<Response>;

const json = (value: unknown, status = 200): Promise<Response> =>
  Promise.resolve({
    ok: status < 400,
    status,
    headers: new Headers({ 'content-type': status < 400 ? 'application/json' : 'application/problem+json' }),
    json: () => Promise.resolve(value),
    text: () => Promise.resolve(JSON.stringify(value)),
    arrayBuffer: () => Promise.resolve(new TextEncoder().encode(JSON.stringify(value)).buffer),
  } as unknown as Response);

const page = pageWith({ all: 2, facets: [{ name: 'colour', kind: 'values', label: 'Colour' }] });
const usual = ({ url }: Asked): Promise<Response> =>
  json(url.pathname.endsWith('/search') ? answerWith({ results: 2, query: url.searchParams.get('q') ?? '' }) : page);

const sheets: string[] = [];
beforeAll(() => {
  // The browser of these tests has no style sheets that are made by a script.
  Object.assign(CSSStyleSheet.prototype, { replaceSync: (text: string) => sheets.push(text) });
  customElements.define('yucca-search', YuccaSearch);
});
beforeEach(() => {
  asked = [];
  answers = usual;
  window.history.replaceState(null, '', '/shop.html');
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  window.fetch = (input, init) => {
    const one = {
      url: new URL(String(input), 'https://shop.example'),
      authorization: new Headers(init?.headers).get('authorization'),
      signal: init!.signal!,
    };
    asked.push(one);
    return answers(one);
  };
});
afterEach(() => act(() => document.body.replaceChildren()));

async function put(attributes: Record<string, string>): Promise<YuccaSearch> {
  const element = document.createElement('yucca-search') as YuccaSearch;
  for (const [name, value] of Object.entries(attributes)) element.setAttribute(name, value);
  await act(async () => {
    document.body.append(element);
    await Promise.resolve();
  });
  return element;
}

const PLACE = { server: 'https://yucca.example/', interface: 'nursery', key: 'k1' };
const titles = (element: Element): HTMLAnchorElement[] => [...element.shadowRoot!.querySelectorAll<HTMLAnchorElement>('h2 a')]; // prettier-ignore

/** Waits for the cards, and returns where their titles lead. */
async function drawn(element: Element): Promise<(string | null)[]> {
  await waitFor(() => expect(element.shadowRoot!.querySelectorAll('h2')).toHaveLength(2));
  return titles(element).map((link) => link.getAttribute('href'));
}

test('asks the server for its page and the first results, and draws them in a tree of its own', async () => {
  const element = await put(PLACE);
  expect(await drawn(element)).toEqual([
    'https://yucca.example/s/nursery/r/P-1',
    'https://yucca.example/s/nursery/r/P-2',
  ]);
  expect(asked.map(({ url: { origin, pathname } }) => origin + pathname)).toEqual([
    expect.stringMatching(/^https:\/\/yucca\.example\/.*nursery/),
    'https://yucca.example/api/v1/collections/plants/search',
  ]);
  expect(asked.every(({ url, authorization }) => (url.searchParams.get('key') ?? authorization)?.includes('k1'))).toBe(true); // prettier-ignore
  expect(sheets.at(-1)).toContain(':host { display: block; }');
  expect(element.shadowRoot!.adoptedStyleSheets).toHaveLength(1);
  expect(element.shadowRoot!.querySelector('style')).toBeNull();
  expect(document.querySelector('h2')).toBeNull();
});

test('every part has a name that the site’s own styles can reach', async () => {
  const element = await put(PLACE);
  await drawn(element);
  await waitFor(() => {
    const parts = [...element.shadowRoot!.querySelectorAll('[data-part]')];
    expect(parts.map((part) => part.getAttribute('part'))).toEqual(parts.map((part) => part.getAttribute('data-part')));
  });
  expect(element.shadowRoot!.querySelector('[part=card]')).not.toBeNull();
});

test('begins with what the address of the site’s page says', async () => {
  window.history.replaceState(null, '', '/shop.html?q=rose&colour=red&utm=x');
  const element = await put(PLACE);
  await drawn(element);
  const { searchParams } = asked.at(-1)!.url;
  expect([searchParams.get('q'), JSON.parse(searchParams.get('select')!)]).toEqual(['rose', { colour: ['red'] }]);
  expect(window.location.search).toBe('?q=rose&colour=red&utm=x');
});

test('asks for what its attributes say, and anew when one of them is another', async () => {
  const element = await put({ ...PLACE, filter: 'stock > 0', tags: 'member,summer sale' });
  await drawn(element);
  const said = (): (string | null)[] => ['filter', 'tags'].map((name) => asked.at(-1)!.url.searchParams.get(name));
  expect(said()).toEqual(['stock > 0', 'member,summer sale']);
  await act(async () => {
    element.setAttribute('filter', 'stock > 9');
    // What comes later, such as the script that tells of visitors, draws the old page once more.
    (element as unknown as { redraw: () => void }).redraw();
  });
  await waitFor(() => expect(said()).toEqual(['stock > 9', 'member,summer sale']));
  await act(async () => {
    element.removeAttribute('filter');
    element.removeAttribute('tags');
  });
  await waitFor(() => expect(said()).toEqual([null, null]));
});

test('a place goes with what is asked; one that cannot be read is said', async () => {
  const element = await put({ ...PLACE, near: '48.2, 16.4,5000' });
  await drawn(element);
  const { searchParams } = asked.at(-1)!.url;
  expect([searchParams.get('near'), searchParams.get('withinM')]).toEqual(['48.2,16.4', '5000']);
  for (const near of ['Vienna', '48.2', '48.2,', '1,2,3,4']) {
    await act(async () => element.setAttribute('near', near));
    await waitFor(() => expect(element.shadowRoot!.textContent).toContain('near="48.2,16.4"'));
    await act(async () => element.removeAttribute('near'));
    expect(await drawn(element)).toHaveLength(2);
  }
});

describe('the site around hears', () => {
  const heard: CustomEvent[] = [];
  const hear = (event: Event): void => void heard.push(event as CustomEvent);
  beforeEach(() => {
    heard.length = 0;
    for (const name of ['yucca-search', 'yucca-click', 'yucca-follow']) document.body.addEventListener(name, hear);
  });
  afterEach(() => {
    for (const name of ['yucca-search', 'yucca-click', 'yucca-follow']) document.body.removeEventListener(name, hear);
  });

  test('of a link that is followed, and may follow it in its own way', async () => {
    const element = await put(PLACE);
    await drawn(element);
    const stay = (event: Event): void => event.preventDefault();
    element.addEventListener('yucca-follow', stay);
    titles(element)[1]!.click();
    expect(heard.map(({ type, detail }) => [type, detail as unknown])).toEqual([
      ['yucca-follow', { href: 'https://yucca.example/s/nursery/r/P-2' }],
    ]);
    // With another key or button it is the browser’s own link.
    titles(element)[0]!.dispatchEvent(new MouseEvent('click', { bubbles: true, ctrlKey: true }));
    expect(heard).toHaveLength(1);
  });

  test.each([true, false])('of answers and opened results, whether or not the server is told: %s', (isTold) => {
    const element = document.createElement('div');
    document.body.append(element);
    const beacons: string[] = [];
    const told = {
      sessionStorage,
      localStorage,
      innerWidth: 1_280,
      addEventListener: () => {},
      navigator: { sendBeacon: (_: string, body: string) => beacons.push(body) > 0, doNotTrack: null },
    } as unknown as InsightsPage;
    const insights = insightsOf(element, { page: isTold ? told : null });
    const client = {
      search: () => Promise.resolve({ total: 3 }),
      multiSearch: () => Promise.resolve([{ total: 4 }, {}]),
    };
    const noted = insights.noting(client as unknown as YuccaClient, 'nursery');
    return (async () => {
      await noted.search('plants', { q: 'fern' });
      await noted.multiSearch([{ collection: 'plants', q: 'fer' }, { collection: 'guides' }]);
      insights.click('q1', 'P-7', 3);
      insights.flush();
      expect(heard.map(({ type, detail }) => [type, detail as unknown])).toEqual([
        ['yucca-search', { request: { q: 'fern' }, answer: { total: 3 } }],
        ['yucca-search', { request: { collection: 'plants', q: 'fer' }, answer: { total: 4 } }],
        ['yucca-click', { id: 'P-7', position: 3, queryId: 'q1' }],
      ]);
      expect(beacons).toHaveLength(isTold ? 1 : 0);
    })();
  });
});

test('titles lead where the site says, or nowhere', async () => {
  expect(await drawn(await put({ ...PLACE, records: '/plant/{id}?from={id}' }))).toEqual([
    '/plant/P-1?from=P-1',
    '/plant/P-2?from=P-2',
  ]);
  await act(async () => document.body.replaceChildren());
  expect(await drawn(await put({ ...PLACE, records: '' }))).toEqual([]);
});

test('a server that cannot be reached is said, and asked again on a press', async () => {
  answers = () => json({ title: 'Not found', status: 404, detail: 'There is no page called “nursery”.' }, 404);
  const element = await put(PLACE);
  await waitFor(() =>
    expect(element.shadowRoot!.querySelector('[role=status]')!.textContent).toBe(
      'The search could not be reached: There is no page called “nursery”.',
    ),
  );
  answers = usual;
  await act(async () => element.shadowRoot!.querySelector('button')!.click());
  await drawn(element);
});

test('a slow server is waited for without a word at first, then with one', async () => {
  jest.useFakeTimers();
  try {
    answers = () => new Promise(() => {});
    const element = await put(PLACE);
    await act(async () => void jest.advanceTimersByTime(390));
    expect(element.shadowRoot!.querySelector('[role=status]')).toBeNull();
    await act(async () => void jest.advanceTimersByTime(20));
    expect(element.shadowRoot!.querySelector('[role=status]')!.textContent).toBe('Searching …');
  } finally {
    jest.useRealTimers();
  }
});

test('another interface takes the place of the one before; what was under way is given up', async () => {
  answers = () => new Promise(() => {});
  const element = await put(PLACE);
  const [first] = asked;
  answers = usual;
  await act(async () => element.setAttribute('interface', 'growing'));
  expect(first!.signal.aborted).toBe(true);
  expect(asked[1]!.url.pathname).toContain('growing');
  await drawn(element);
});

test('taken out of the page it stops, and put in again it begins anew', async () => {
  const element = await put(PLACE);
  await drawn(element);
  await act(async () => element.remove());
  expect(element.shadowRoot!.querySelectorAll('h2')).toHaveLength(0);
  await act(async () => document.body.append(element));
  await drawn(element);
});
