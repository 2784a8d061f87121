import { AnswerCache } from '../src/answer-cache.ts';
import { createClient, type RequestEvent } from '../src/index.ts';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('the answer that was not used for longest goes first', () => {
  const cache = new AnswerCache(2, 1000);
  cache.set('a', 1);
  cache.set('b', 2);
  expect(cache.get('a')).toBe(1);
  cache.set('c', 3);
  expect([cache.get('a'), cache.get('b'), cache.get('c')]).toEqual([1, null, 3]);
});

test('an answer is used for a while, and not after', () => {
  const cache = new AnswerCache(2, 1000);
  cache.set('a', 1);
  jest.advanceTimersByTime(999);
  expect(cache.get('a')).toBe(1);
  jest.advanceTimersByTime(1);
  expect(cache.get('a')).toBeNull();
});

/** A client over answers that name what was asked; `asked` counts what went out. */
function listening(answer: () => Promise<Response> = async () => new Response('{"total":1}')) {
  const events: RequestEvent[] = [];
  const fetch = jest.fn(answer);
  const client = createClient({
    fetch: fetch as unknown as typeof globalThis.fetch,
    onRequest: (one) => events.push(one),
  });
  return { client, events, fetch };
}

test('the same question within a moment is answered without asking', async () => {
  const { client, events, fetch } = listening();
  await client.search('plants', { q: 'rose' });
  expect(await client.search('plants', { q: 'rose' })).toEqual({ total: 1 });
  await client.search('plants', { q: 'roses' });
  expect(fetch).toHaveBeenCalledTimes(2);
  expect(events.filter(({ kind }) => kind === 'end').map((one) => one.kind === 'end' && one.outcome)).toEqual([
    'done',
    'cached',
    'done',
  ]);
});

test('who listens hears of start, first byte and end, with what was typed', async () => {
  const { client, events } = listening(async () => {
    return new Response('{"answers":[{},{}]}', { headers: { 'Server-Timing': 'engine;dur=0.4' } });
  });
  await client.multiSearch([
    { collection: 'plants', q: 'ro' },
    { collection: 'guides', q: 'ro' },
  ]);
  expect(events.map(({ kind }) => kind)).toEqual(['start', 'head', 'end']);
  expect(events).toEqual([
    expect.objectContaining({ path: '/search', text: 'ro' }),
    expect.objectContaining({ status: 200, timing: 'engine;dur=0.4' }),
    expect.objectContaining({ outcome: 'done', bytes: 19 }),
  ]);
});

test('what was cancelled and what failed are told apart, and neither is kept', async () => {
  const abort = new AbortController();
  const { client, events } = listening(async () => {
    if (abort.signal.aborted) return new Response('{"title":"no"}', { status: 500 });
    abort.abort();
    throw new DOMException('stopped', 'AbortError');
  });
  await expect(client.search('plants', { q: 'a' }, abort.signal)).rejects.toMatchObject({ name: 'AbortError' });
  await expect(client.search('plants', { q: 'a' })).rejects.toThrow('no');
  const ends = events.flatMap((one) => (one.kind === 'end' ? [one.outcome] : []));
  expect(ends).toEqual(['cancelled', 'failed']);
});
