import type { SearchAnswer, SearchRequest } from '@yucca/contract';
import fc from 'fast-check';
import { EMPTY_QUERY, SearchState, withText, withToggled, type SearchClient } from '../src/index.ts';

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

jest.setTimeout(30_000);

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
