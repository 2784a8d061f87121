/** @jest-environment jsdom */
import type { InterfacePage, PageSection, SearchRequest, Suggestion } from '@yucca/contract';
import { act, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { createMemory, type ViewedRecord, type YuccaClient } from '../src/index.ts';
import { SearchBox } from '../src/react/index.ts';
import { sourcesFor } from '../src/autocomplete/page-sources.ts';
import { answerWith, pageWith } from './answers.ts';

const CARD = { title: 'name', picture: 'photo', text: 'about', number: 'price', detail: 'kind' };
const SECTIONS: PageSection[] = [
  { from: 'past', label: 'Asked before', size: 3 },
  { from: 'viewed', label: 'Looked at before', size: 3 },
  { from: 'popular', label: 'Much bought', size: 2, collection: 'plants', card: CARD, at: '/s/nursery' },
  { from: 'values', label: 'Go on with', size: 4, collection: 'plants' },
  { from: 'records', label: 'Plants', size: 2, collection: 'plants', card: CARD, at: '/s/nursery' },
  { from: 'records', label: 'Guides', size: 1, collection: 'guides', card: { ...CARD, title: 'title' }, at: '/s/growing' },
]; // prettier-ignore

const suggestions: Suggestion[] = [
  { text: 'rose red', ranges: [[0, 2]], count: 12, kind: 'query' },
  { text: 'Roses', ranges: [[0, 2]], count: 48, kind: 'value', facet: 'category', value: 'Outdoor > Roses' },
  { text: 'Dog rose', ranges: [[4, 6]], count: 1, kind: 'record', id: 'P-1' },
];
const record = { name: 'Dog rose', photo: '/p/1.jpg', about: 'Pink in June.', price: 9.5, kind: 'Shrub', title: 'Roses in pots' }; // prettier-ignore

let asked: (SearchRequest & { collection: string })[][] = [];
const client = {
  suggest: (_: string, q: string) => Promise.resolve({ q, suggestions }),
  multiSearch: (queries: (SearchRequest & { collection: string })[]) => {
    asked.push(queries);
    return Promise.resolve(
      queries.map(
        ({ collection, size }) =>
        answerWith({ total: 90, results: [{ id: `${collection}-1`, record, marks: { '/name': [[4, 6]] }, snippets: {} }], size: size! }), // prettier-ignore
      ),
    );
  },
} as unknown as YuccaClient;

interface Heard {
  texts: string[];
  asks: string[];
  values: [string, string][];
  records: ViewedRecord[];
}

function show(page: Partial<InterfacePage> = {}) {
  const heard: Heard = { texts: [], asks: [], values: [], records: [] };
  const memory = createMemory('box', null);
  memory.addQuery('rosemary');
  memory.addViewed({ collection: 'plants', id: 'P-9', text: 'Fern', detail: 'Indoor' });
  let say: (text: string) => void = () => {};
  function Page() {
    const [text, setText] = useState('');
    say = setText;
    return (
      <form onSubmit={(event) => event.preventDefault()}>
        <SearchBox
          page={pageWith({ autocomplete: SECTIONS, currency: 'GBP', ...page })}
          client={client}
          memory={memory}
          text={text}
          total={90}
          facetLabel={(facet) => `the ${facet}`}
          onText={(next) => {
            heard.texts.push(next);
            setText(next);
          }}
          onAsk={(next) => void heard.asks.push(next)}
          onValue={(facet, value) => void heard.values.push([facet, value])}
          onRecord={(one) => void heard.records.push(one)}
          picturesFrom="https://shop.example"
        />
      </form>
    );
  }
  render(<Page />);
  return { heard, memory, say: (text: string) => act(() => say(text)) };
}

const field = (): HTMLInputElement => screen.getByRole('combobox', { name: 'Search Nursery' });
const sections = (): string[] => screen.getAllByRole('group').map((group) => group.getAttribute('aria-label') ?? within(group).getAllByText(/./)[0]!.textContent!); // prettier-ignore
/** The offer whose text is like this: names of roles put a space beside every mark. */
const offer = (text: RegExp): Promise<HTMLElement> =>
  waitFor(() => {
    const found = screen.queryAllByRole('option').find(({ textContent }) => text.test(textContent!));
    if (!found) throw new Error(`nothing like ${text} is offered`);
    return found;
  });

beforeEach(() => {
  asked = [];
});

test('before the first letter: what this visitor asked for and looked at, and what others buy', async () => {
  const { heard, memory } = show();
  await userEvent.click(field());
  await offer(/Dog rose/);
  expect(screen.getAllByRole('option').map(({ textContent }) => textContent)).toEqual([
    expect.stringContaining('rosemary'),
    expect.stringContaining('Fern Indoor'),
    'Dog rose Shrub',
  ]);
  expect(asked).toEqual([[expect.objectContaining({ collection: 'plants', q: '', size: 2, record: false })]]);
  await userEvent.click(await offer(/Fern/));
  expect(heard.records).toEqual([{ collection: 'plants', id: 'P-9', text: 'Fern', detail: 'Indoor' }]);
  expect(memory.queries()).toEqual(['rosemary']);
});

test('with letters: past queries, completions, then records of two collections asked for in one request', async () => {
  show();
  await userEvent.type(field(), 'ro');
  await offer(/Roses in pots/);
  expect(asked.at(-1)!.map(({ collection, size }) => [collection, size])).toEqual([['plants', 2], ['guides', 1]]); // prettier-ignore
  expect(screen.getAllByRole('option').map(({ textContent }) => textContent!.replace(/\s+/g, ' '))).toEqual([
    expect.stringContaining('rosemary'),
    'rose red12',
    'Roses in the category48',
    'Dog rose Shrub',
    'Roses in pots Shrub',
  ]);
  expect(sections()).toHaveLength(4);
  expect(screen.getByRole('button', { name: /All 90 results for “ro”/ })).toBeTruthy();
});

test.each([
  [/rose red/, { asks: ['rose red'], values: [], records: [] }],
  [/Roses in the category/, { asks: [], values: [['category', 'Outdoor > Roses']], records: [] }],
  [/Dog rose/, { asks: [], values: [], records: [{ collection: 'plants', id: 'plants-1', text: 'Dog rose', detail: 'Shrub', picture: 'https://shop.example/p/1.jpg' }] }],
] as const)('choosing %s', async (name, expected) => {
  const { heard } = show();
  await userEvent.type(field(), 'ro');
  await userEvent.click(await offer(name));
  const { asks, values, records } = heard;
  expect({ asks, values, records }).toEqual(expected);
}); // prettier-ignore

test('a query that is chosen is remembered, like one that is sent with Enter; one that chose a row is not', async () => {
  const { memory, heard } = show();
  await userEvent.type(field(), 'fern{Enter}');
  expect(memory.queries()[0]).toBe('fern');
  await userEvent.clear(field());
  await userEvent.type(field(), 'ro');
  await offer(/Roses in the category/);
  await userEvent.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}{Enter}');
  expect(heard.values).toHaveLength(1);
  expect(memory.queries()).toEqual(['fern', 'rosemary']);
  await userEvent.clear(field());
  await userEvent.type(field(), 'ro');
  await userEvent.click(await offer(/rose red/));
  expect(memory.queries()).toEqual(['rose red', 'fern', 'rosemary']);
});

test('what is pointed at is shown larger: a record with all of its card, anything else with what it does', async () => {
  show();
  await userEvent.type(field(), 'ro');
  await offer(/Roses in pots/);
  await userEvent.keyboard('{ArrowDown}{ArrowDown}');
  expect(screen.getByText('Others have asked for this.')).toBeTruthy();
  await userEvent.keyboard('{ArrowDown}');
  expect(screen.getByText('Shows everything of this kind.')).toBeTruthy();
  await userEvent.keyboard('{ArrowDown}');
  expect(screen.getByText('Pink in June.')).toBeTruthy();
  // A price is one of the page's own collection; of another one nobody knows what its number counts.
  expect(screen.getByText('£9.50')).toBeTruthy();
  await userEvent.keyboard('{ArrowDown}');
  expect(screen.getByText('9.5')).toBeTruthy();
});

test('text that comes from elsewhere closes the offers, what was typed here does not', async () => {
  const { say } = show();
  await userEvent.type(field(), 'ro');
  await offer(/rose red/);
  expect(field().getAttribute('aria-expanded')).toBe('true');
  say('tulip');
  await waitFor(() => expect(field().value).toBe('tulip'));
  await waitFor(() => expect(field().getAttribute('aria-expanded')).toBe('false'));
});

test('sections that lack their collection are left out', () => {
  const memory = createMemory('none', null);
  const names = (sections: PageSection[]): string[] => sourcesFor(sections, client, memory).map(({ name }) => name);
  expect(names(SECTIONS)).toEqual(['past', 'viewed', 'popular-2', 'completions', 'records-4']);
  expect(names([{ from: 'values', label: 'Gone', size: 3 }])).toEqual([]);
});
