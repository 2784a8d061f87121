import type { SearchAnswer, SearchRequest } from '@yucca/contract';
import fc from 'fast-check';
import {
  EMPTY_QUERY,
  sameQuery,
  SearchState,
  withText,
  withToggled,
  type SearchClient,
  type YuccaClient,
} from '../src/index.ts';

const answerTo = (request: SearchRequest): SearchAnswer => ({
  query: request.q ?? '',
  total: 1,
  page: 1,
  pages: 1,
  size: 20,
  results: [],
  facets: {},
  understood: { words: [], dropped: [], placements: [], redirect: null, notice: null },
  queryId: '',
  generation: 1,
  timing: { engineMs: 0, totalMs: 0 },
});

/** A client whose answers come when the test says so. */
function heldClient() {
  const open: {
    request: SearchRequest;
    signal: AbortSignal | undefined;
    resolve: (answer: SearchAnswer) => void;
    reject: (error: Error) => void;
  }[] = [];
  const client: SearchClient = {
    search: (_, request, signal) => new Promise((resolve, reject) => open.push({ request, signal, resolve, reject })),
  };
  return { client, open };
}

const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));

test('whatever the order of the answers, the newest question wins', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.uniqueArray(fc.string({ minLength: 1 }), { minLength: 1, maxLength: 8 }),
      fc.array(fc.nat(), { minLength: 8, maxLength: 8 }),
      async (texts, order) => {
        const { client, open } = heldClient();
        const state = new SearchState({ client, collection: 'plants' });
        const seen: string[] = [];
        state.subscribe(() => seen.push(state.snapshot().answered?.q ?? ''));
        texts.forEach((q) => state.ask(withText(state.snapshot().query, q)));
        const left = [...open];
        while (left.length > 0) {
          const [next] = left.splice(order[left.length - 1]! % left.length, 1);
          next!.resolve(answerTo(next!.request));
          await settle();
        }
        expect(state.snapshot().answered?.q).toBe(texts.at(-1));
        expect(seen.filter((q) => q !== '' && q !== texts.at(-1))).toEqual([]);
        expect(open.slice(0, -1).every(({ signal }) => signal!.aborted)).toBe(true);
      },
    ),
    { numRuns: 50 },
  );
});

test('old results stay until new ones are there, and through a failure', async () => {
  const { client, open } = heldClient();
  const first = answerTo({ q: '' });
  const state = new SearchState({ client, collection: 'plants', answer: first });
  state.ask(withText(EMPTY_QUERY, 'rose'));
  expect(state.snapshot()).toMatchObject({ answer: first, status: 'loading' });
  open[0]!.reject(new TypeError('line down'));
  await settle();
  expect(state.snapshot()).toMatchObject({ answer: first, status: 'failed', error: { message: 'line down' } });
  void state.refresh();
  open[1]!.resolve(answerTo({ q: 'rose' }));
  await settle();
  expect(state.snapshot()).toMatchObject({ answer: { query: 'rose' }, status: 'idle', error: null });
});

test('an answer that came with the page is not asked for again', () => {
  const { client, open } = heldClient();
  new SearchState({ client, collection: 'plants', answer: answerTo({ q: '' }) });
  expect(open).toHaveLength(0);
});

test('choosing a value twice takes it back, and both start at the first page', () => {
  const chosen = withToggled({ q: 'a', select: {}, sort: null, near: null, page: 4 }, 'colour', 'red');
  expect(chosen).toEqual({ q: 'a', select: { colour: ['red'] }, sort: null, near: null, page: 1 });
  expect(withToggled(chosen, 'colour', 'red')).toEqual({ q: 'a', select: {}, sort: null, near: null, page: 1 });
});

describe('several collections in one state', () => {
  test('one request asks all of them for the same text; choices are the first one’s', async () => {
    const calls: Parameters<YuccaClient['multiSearch']>[0][] = [];
    const client = {
      search: () => Promise.reject(new Error('not asked')),
      multiSearch: (queries: (typeof calls)[number]) => {
        calls.push(queries);
        return Promise.resolve(queries.map((query) => ({ ...answerTo(query), total: query.collection.length })));
      },
    };
    const beside = [{ collection: 'guides', request: { size: 3 } }, { collection: 'gardens' }];
    const state = new SearchState({ client, collection: 'plants', request: { size: 10 }, beside });
    expect(state.snapshot().beside).toEqual([]);
    state.ask(withToggled(withText(EMPTY_QUERY, 'rose'), 'colour', 'red'));
    await settle();
    expect(calls).toMatchObject([
      [
        { collection: 'plants', q: 'rose', select: { colour: ['red'] }, size: 10 },
        { collection: 'guides', q: 'rose', size: 3 },
        { collection: 'gardens', q: 'rose' },
      ],
    ]);
    expect(state.snapshot().answer?.total).toBe(6);
    expect(state.snapshot().beside.map((answer) => answer?.total)).toEqual([6, 7]);
  });

  test('one that fails beside the first leaves its place empty; the first one’s failure is the state’s', async () => {
    const problem = { type: 'about:blank', title: 'Not found', status: 404, detail: 'There is no such collection.' };
    const client = (failing: number) => ({
      search: () => Promise.reject(new Error('not asked')),
      multiSearch: (queries: readonly SearchRequest[]) =>
        Promise.resolve(queries.map((query, i) => (i === failing ? problem : answerTo(query)))),
    });
    const options = { collection: 'plants', beside: [{ collection: 'guides' }] };
    const second = new SearchState({ client: client(1), ...options });
    await second.refresh();
    expect(second.snapshot()).toMatchObject({ status: 'idle', beside: [null] });
    const first = new SearchState({ client: client(0), ...options });
    await first.refresh();
    expect(first.snapshot()).toMatchObject({ status: 'failed', answer: null });
    expect(first.snapshot().error?.message).toBe('There is no such collection.');
  });

  test('a client that can only search one at a time is asked one by one', async () => {
    const { client, open } = heldClient();
    const state = new SearchState({ client, collection: 'plants', beside: [{ collection: 'guides' }] });
    const done = state.refresh();
    open.forEach(({ request, resolve }) => resolve(answerTo(request)));
    await done;
    expect(state.snapshot().beside).toHaveLength(1);
  });
});

test('settled waits for the newest question, and not at all when nothing is asked', async () => {
  const { client, open } = heldClient();
  const state = new SearchState({ client, collection: 'plants' });
  await state.settled();
  state.ask(withText(EMPTY_QUERY, 'a'));
  state.ask(withText(EMPTY_QUERY, 'ab'));
  let done = false;
  void state.settled().then(() => (done = true));
  open[0]!.resolve(answerTo(open[0]!.request));
  await settle();
  expect(done).toBe(false);
  open[1]!.resolve(answerTo(open[1]!.request));
  await settle();
  expect(done).toBe(true);
});

test('what failed for a moment is asked again by itself, and the newest question with it', async () => {
  const { client, open } = heldClient();
  const state = new SearchState({ client, collection: 'plants' });
  state.ask(withText(EMPTY_QUERY, 'rose'));
  open[0]!.reject(new TypeError('line down'));
  await settle();
  expect(state.snapshot().status).toBe('failed');
  await new Promise((resolve) => setTimeout(resolve, 1_100));
  expect(open.map(({ request }) => request.q)).toEqual(['rose', 'rose']);
  // What went wrong is said until something works.
  expect(state.snapshot()).toMatchObject({ status: 'loading', error: { message: 'line down' } });
  open[1]!.resolve(answerTo({ q: 'rose' }));
  await settle();
  expect(state.snapshot()).toMatchObject({ status: 'idle', error: null });
  state.ask(withText(EMPTY_QUERY, 'fern'));
  open[2]!.reject(new TypeError('line down'));
  await settle();
  state.stop();
  await new Promise((resolve) => setTimeout(resolve, 1_100));
  expect(open).toHaveLength(3);
});

test('a query from outside is taken over with its answer, or asked for; the same one changes nothing', async () => {
  const { client, open } = heldClient();
  const state = new SearchState({ client, collection: 'plants', answer: answerTo({ q: '' }) });
  const rose = withText(EMPTY_QUERY, 'rose');
  state.take(rose, answerTo({ q: 'rose' }));
  expect(state.snapshot()).toMatchObject({ query: rose, answered: rose, answer: { query: 'rose' }, status: 'idle' });
  expect(open).toHaveLength(0);
  state.take({ ...rose, select: {} });
  state.ask({ ...rose });
  expect(open).toHaveLength(0);
  state.take(withToggled(rose, 'colour', 'red'));
  expect(open.map(({ request }) => request.select)).toEqual([{ colour: ['red'] }]);
  // An answer that is still on its way does not replace what was taken over meanwhile.
  state.take(EMPTY_QUERY, answerTo({ q: '' }));
  open[0]!.resolve(answerTo({ q: 'rose' }));
  await settle();
  expect(state.snapshot()).toMatchObject({ query: EMPTY_QUERY, answer: { query: '' } });
});

test('queries are the same by what they ask for', () => {
  const two = withToggled(withToggled(EMPTY_QUERY, 'colour', 'red'), 'colour', 'blue');
  const other = withToggled(withToggled(EMPTY_QUERY, 'colour', 'blue'), 'colour', 'red');
  expect(sameQuery(two, other)).toBe(true);
  expect(sameQuery(two, withToggled(two, 'colour', 'red'))).toBe(false);
  expect(sameQuery({ ...two, page: 2 }, two)).toBe(false);
  const range = (max: number) => ({ ...EMPTY_QUERY, select: { price: { max } } });
  expect([sameQuery(range(3), range(3)), sameQuery(range(3), range(4))]).toEqual([true, false]);
});
