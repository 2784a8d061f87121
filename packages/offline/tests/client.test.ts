import type { OfflineManifest, SearchAnswer } from '@yucca/contract';
import { ProblemError } from '@yucca/kit';
import { createOfflineClient, type Thread } from '../src/index.ts';

const answer = { total: 7 } as SearchAnswer;
const manifest = {
  format: 1,
  pages: { shop: { slug: 'shop' } },
  collections: { plants: {} },
  first: { collection: 'plants', request: { q: '', page: 1, facets: ['colour'], size: 24 }, answer },
} as unknown as OfflineManifest;

interface Asked {
  id: number;
  method: string;
  args: unknown[];
}

/** A thread that is answered by hand. */
function byHand() {
  const listeners: Record<string, (event: { data: unknown }) => void> = {};
  const asked: Asked[] = [];
  let started = 0;
  const thread = {
    postMessage: (message: object) => void ('id' in message && asked.push(message as Asked)),
    addEventListener: (name: string, listener: (event: { data: unknown }) => void) => (listeners[name] = listener),
  } as unknown as Thread;
  return {
    asked,
    starts: () => started,
    start: () => {
      started++;
      return thread;
    },
    say: (data: object) => listeners.message!({ data }),
    fail: () => listeners.error!({ data: null }),
  };
}
const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

test('the first question is answered without the thread, another one starts it', async () => {
  const { start, starts, asked, say } = byHand();
  const client = createOfflineClient(manifest, 'http://site/data/', start);
  expect(await client.search('plants', { facets: ['colour'], size: 24, q: '' })).toBe(answer);
  expect(starts()).toBe(0);
  const found = client.search('plants', { facets: ['colour'], size: 24, q: 'f' });
  await turn();
  expect([starts(), asked.map(({ method }) => method)]).toEqual([1, ['search']]);
  say({ id: asked[0]!.id, answer: { total: 1 } });
  expect(await found).toEqual({ total: 1 });
});

test('what nobody waits for any more is not asked; what comes late is not taken', async () => {
  const { start, asked, say } = byHand();
  const client = createOfflineClient(manifest, 'http://site/data/', start);
  const [one, two] = [new AbortController(), new AbortController()];
  const first = client.search('plants', { q: 'a' }, one.signal);
  const second = client.search('plants', { q: 'ab' }, two.signal);
  const third = client.search('plants', { q: 'abc' });
  await turn();
  expect(asked).toHaveLength(1);
  one.abort();
  two.abort();
  say({ id: asked[0]!.id, answer: { total: 1 } });
  await expect(first).rejects.toThrow('abort');
  await expect(second).rejects.toThrow('abort');
  await turn();
  expect(asked.map(({ args }) => (args[1] as { q: string }).q)).toEqual(['a', 'abc']);
  say({ id: asked[1]!.id, answer: { total: 3 } });
  expect(await third).toEqual({ total: 3 });
});

test('a question that fails fails alone, in its place among others', async () => {
  const { start, asked, say } = byHand();
  const client = createOfflineClient(manifest, 'http://site/data/', start);
  const problem = { type: 'urn:yucca:problem:invalid', title: 'Not valid', status: 422, detail: 'no such facet' };
  const several = client.multiSearch([{ collection: 'plants', q: 'a' }, { collection: 'plants', q: 'b' }]); // prettier-ignore
  await turn();
  say({ id: asked[0]!.id, problem });
  await turn();
  say({ id: asked[1]!.id, answer: { total: 2 } });
  expect(await several).toEqual([problem, { total: 2 }]);
  await expect(client.search('nothing', {})).rejects.toThrow(ProblemError);
  await expect((async () => client.page('toString'))()).rejects.toThrow('There is no “toString”');
});

test('a thread that cannot be started is said once for all', async () => {
  const { start, fail } = byHand();
  const client = createOfflineClient(manifest, 'http://site/data/', start);
  const first = client.suggest('plants', 'a', 4);
  const told = expect(first).rejects.toThrow('could not be started');
  await turn();
  fail();
  await told;
  await expect(client.record('plants', 'x')).rejects.toThrow('could not be started');
});
