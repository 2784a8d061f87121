import fc from 'fast-check';
import {
  Autocomplete,
  completionsSource,
  createMemory,
  pastQueriesSource,
  recordsSource,
  staticSource,
  type Offer,
  type Section,
  type Source,
  type YuccaClient,
} from '../src/index.ts';

const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
const rows = (...texts: string[]): Offer[] => texts.map((text) => ({ id: text, kind: 'row', text }));
const texts = (state: Autocomplete): string[] => state.snapshot().offers.map(({ text }) => text);

/** A source whose answers come when the test says so. */
function held(name: string) {
  const asked: { text: string; signal: AbortSignal; answer: (offers: Offer[]) => void; fail: () => void }[] = [];
  const source: Source = {
    name,
    load: (text, signal) =>
      new Promise<readonly Section[]>((resolve, reject) =>
        asked.push({
          text,
          signal,
          answer: (offers) => resolve([{ name, label: name, offers }]),
          fail: () => reject(new Error('down')),
        }),
      ),
  };
  return { source, asked };
}

test('whatever the order of the answers, only those to the newest text are shown', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.integer({ min: 1, max: 6 }),
      fc.array(fc.nat(), { minLength: 6, maxLength: 6 }),
      async (count, order) => {
        const { source, asked } = held('a');
        const state = new Autocomplete({ sources: [source] });
        for (let i = 0; i < count; i++) state.type('x'.repeat(i + 1));
        expect(asked.map(({ signal }) => signal.aborted)).toEqual(
          Array.from({ length: count }, (_, i) => i < count - 1),
        );
        const left = [...asked];
        while (left.length > 0) {
          const [next] = left.splice(order[left.length - 1]! % left.length, 1);
          next!.answer(rows(next!.text));
          await settle();
          expect(texts(state).every((text) => text.length === count)).toBe(true);
        }
        expect(texts(state)).toEqual(['x'.repeat(count)]);
        expect(state.snapshot().loading).toBe(false);
      },
    ),
    { numRuns: 40 },
  );
});

test('each source shows its answer when it comes; the last one stays until the next; a failing one offers nothing', async () => {
  const [a, b] = [held('a'), held('b')];
  const state = new Autocomplete({ sources: [a.source, b.source] });
  state.type('r');
  b.asked[0]!.answer(rows('rose'));
  await settle();
  expect([texts(state), state.snapshot().loading]).toEqual([['rose'], true]);
  a.asked[0]!.answer(rows('red'));
  await settle();
  expect([texts(state), state.snapshot().loading]).toEqual([['red', 'rose'], false]);
  state.type('ro');
  expect(texts(state)).toEqual(['red', 'rose']);
  a.asked[1]!.fail();
  await settle();
  expect(texts(state)).toEqual(['rose']);
});

test('which row is pointed at follows the row; the arrows go round by way of none', async () => {
  const { source, asked } = held('a');
  const state = new Autocomplete({ sources: [source] });
  state.type('a');
  asked[0]!.answer(rows('a1', 'a2', 'a3'));
  await settle();
  const seen = ['next', 'next', 'next', 'next', 'previous', 'first', 'last'].map((to) => {
    state.move(to as 'next');
    return state.pointed()?.text ?? null;
  });
  expect(seen).toEqual(['a1', 'a2', 'a3', null, 'a3', 'a1', 'a3']);
  state.open();
  state.point(1);
  state.close();
  expect(state.pointed()).toBeNull();
});

test('a row that is still offered stays pointed at; typing points at none', async () => {
  const { source, asked } = held('a');
  const memory = createMemory('t', null);
  ['aster', 'agave'].forEach((query) => memory.addQuery(query));
  const state = new Autocomplete({ sources: [pastQueriesSource(memory, { label: 'Past' }), source] });
  state.open();
  state.move('last');
  expect(state.pointed()?.text).toBe('aster');
  expect(state.remove(state.snapshot().offers[0]!)).toBe(true);
  expect([texts(state), state.pointed()?.text]).toEqual([['aster'], 'aster']);
  state.type('a');
  expect(state.pointed()).toBeNull();
  asked[0]!.answer(rows('x'));
  await settle();
  expect(state.remove(state.snapshot().offers.at(-1)!)).toBe(false);
});

test('a wait is kept to, and letters decide which source is asked', async () => {
  jest.useFakeTimers();
  const { source, asked } = held('slow');
  const state = new Autocomplete({
    sources: [
      { ...source, from: 3 },
      staticSource('always', 'Always', rows('Roses', 'Ferns')),
      { ...staticSource('first', 'First', rows('Popular')), upTo: 0 },
    ],
    waitMs: 200,
  });
  state.type('r');
  state.type('ro');
  jest.advanceTimersByTime(199);
  expect(texts(state)).toEqual([]);
  jest.advanceTimersByTime(1);
  expect([texts(state), asked.length]).toEqual([['Roses'], 0]);
  state.type('ros');
  state.type('rose');
  jest.advanceTimersByTime(200);
  expect(asked.map(({ text }) => text)).toEqual(['rose']);
  state.type('');
  jest.advanceTimersByTime(200);
  expect(texts(state)).toEqual(['Roses', 'Ferns', 'Popular']);
  jest.useRealTimers();
});

test('a text from elsewhere closes and forgets what was offered', () => {
  const state = new Autocomplete({ sources: [staticSource('s', 'S', rows('one', 'two'))] });
  state.open();
  expect(state.snapshot().open).toBe(true);
  state.settle('two');
  expect(state.snapshot()).toMatchObject({ text: 'two', open: false, offers: [] });
});

describe('sources', () => {
  test('records of several collections come in one request; one that fails is left out', async () => {
    const answer = (total: number, ...ids: string[]) => ({
      total,
      results: ids.map((id) => ({ id, record: { name: `${id}!` }, marks: {}, snippets: {} })),
    });
    const multiSearch = jest.fn(() =>
      Promise.resolve([answer(42, 'p1', 'p2'), { status: 404 }]),
    ) as unknown as YuccaClient['multiSearch'];
    const row = ({ record }: { record: Record<string, unknown> }) => ({ text: String(record.name) });
    const source = recordsSource({ multiSearch }, [
      { collection: 'plants', label: 'Plants', size: 2, row },
      { collection: 'gone', label: 'Gone', row },
    ]);
    const sections = await source.load('ro', new AbortController().signal);
    expect(sections).toMatchObject([
      { label: 'Plants', total: 42, offers: [{ kind: 'record', text: 'p1!' }, { text: 'p2!' }] },
    ]);
    expect(multiSearch).toHaveBeenCalledWith(
      [
        { collection: 'plants', q: 'ro', size: 2, record: false },
        { collection: 'gone', q: 'ro', size: 4, record: false },
      ],
      expect.anything(),
    );
  });

  test('completions are values and queries, never records', async () => {
    const suggestions = [
      { text: 'Red', ranges: [[0, 1]], count: 9, kind: 'value', facet: 'colour' },
      { text: 'Red rose', ranges: [], count: 1, kind: 'record', id: '1' },
    ];
    const suggest = (() => Promise.resolve({ q: 'r', suggestions })) as unknown as YuccaClient['suggest'];
    const [section] = await completionsSource({ suggest }, { collection: 'plants', label: 'Narrow' }).load(
      'r',
      new AbortController().signal,
    );
    expect(section!.offers.map(({ text, kind, count }) => [text, kind, count])).toEqual([['Red', 'value', 9]]);
  });

  test('memory: the newest first, no doubles, at most twenty, and alive without a store', () => {
    const store = new Map<string, string>();
    const memory = createMemory('plants', {
      getItem: (key) => store.get(key) ?? null,
      setItem: (key, value) => void store.set(key, value),
    });
    for (let i = 0; i < 30; i++) memory.addQuery(`q${i}`);
    memory.addQuery(' Q29 ');
    memory.addQuery('  ');
    expect([memory.queries().length, memory.queries()[0], memory.queries()[1]]).toEqual([20, 'Q29', 'q28']);
    memory.forgetQuery('q28');
    expect(createMemory('plants', { getItem: (key) => store.get(key)!, setItem: () => {} }).queries()[1]).toBe('q27');
    const broken = createMemory('x', {
      getItem: () => '{oops',
      setItem: () => {
        throw new DOMException('full', 'QuotaExceededError');
      },
    });
    broken.addQuery('rose');
    expect(broken.queries()).toEqual(['rose']);
  });
});
