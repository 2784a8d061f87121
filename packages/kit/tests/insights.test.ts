/** @jest-environment jsdom */
import type { YuccaClient } from '../src/index.ts';
import { createInsights, type InsightsPage } from '../src/insights.ts';

beforeEach(() => {
  jest.useFakeTimers();
  sessionStorage.clear();
  localStorage.clear();
});
afterEach(() => jest.useRealTimers());

/** A page whose beacons are kept, with a browser that may ask for something. */
function page(asks: { doNotTrack?: string; globalPrivacyControl?: boolean } = {}, takes = () => true) {
  const sent: { address: string; events: { type: string; recordId: string; position?: number; session: string }[] }[] =
    [];
  const leaving: (() => void)[] = [];
  const sendBeacon = (address: string, body: string): boolean => {
    if (takes()) sent.push({ address, ...(JSON.parse(body) as { events: [] }) });
    return takes();
  };
  const made = {
    sessionStorage,
    localStorage,
    innerWidth: 390,
    addEventListener: (_: string, listener: () => void) => leaving.push(listener),
    navigator: { sendBeacon, doNotTrack: null, ...asks },
  } as unknown as InsightsPage;
  return { sent, leave: () => leaving.forEach((listener) => listener()), page: made };
}

test('what comes close together is sent together, with the ids of the visit', () => {
  const { sent, page: here } = page();
  const insights = createInsights({ base: 'https://search.example', key: 'k+1', page: here });
  insights.view('q1', 'P-1', 1);
  insights.view('q1', 'P-1', 1);
  insights.view('q1', 'P-2', 2);
  insights.click('q1', 'P-2', 2);
  expect(sent).toHaveLength(0);
  jest.advanceTimersByTime(1000);
  expect(sent).toHaveLength(1);
  expect(sent[0]!.address).toBe('https://search.example/api/v1/events?key=k%2B1');
  expect(sent[0]!.events.map(({ type, recordId, position }) => [type, recordId, position])).toEqual([
    ['view', 'P-1', 1],
    ['view', 'P-2', 2],
    ['click', 'P-2', 2],
  ]);
  expect(sent[0]!.events[0]!.session).toBe(insights.session);
});

test('every event has an id of its own, and an answer that came with the page is claimed', () => {
  const { sent, page: here } = page();
  const insights = createInsights({ page: here });
  insights.search('q1', 'nursery');
  insights.click('q1', 'P-1', 1);
  insights.flush();
  const [claim, click] = sent[0]!.events as unknown as Record<string, unknown>[];
  expect(claim).toMatchObject({ type: 'search', queryId: 'q1', session: insights.session, viewer: insights.viewer });
  expect(claim!.tags).toEqual(['page:nursery', 'width:phone']);
  expect(claim!.id).not.toBe(click!.id);
});

test('searches of a noting client say whose they are, and which was a completion', async () => {
  const asked: unknown[] = [];
  const client = {
    search: (_: string, request: unknown) => Promise.resolve(asked.push(request)),
  } as unknown as YuccaClient;
  const insights = createInsights({ page: page().page });
  let chosen: string | null = null;
  const noting = insights.noting(client, 'nursery', () => chosen);
  await noting.search('plants', { q: 'rose', size: 3 });
  chosen = 'rose garden';
  await noting.search('plants', { q: 'rose garden' });
  await noting.search('plants', { q: 'rose gardens' });
  const { session, viewer } = insights;
  const whose = { session, viewer, tags: ['page:nursery', 'width:phone'] };
  expect(asked).toEqual([
    { q: 'rose', size: 3, ...whose },
    { q: 'rose garden', by: 'completion', ...whose },
    { q: 'rose gardens', ...whose },
  ]);
});

test('the next page of the visit has the same ids; no cookie is set', () => {
  const one = createInsights({ page: page().page });
  const two = createInsights({ page: page().page });
  expect([two.session, two.viewer]).toEqual([one.session, one.viewer]);
  sessionStorage.clear();
  const later = createInsights({ page: page().page });
  expect(later.session).not.toBe(one.session);
  expect(later.viewer).toBe(one.viewer);
  expect(document.cookie).toBe('');
});

test('leaving the page sends what waits', () => {
  const { sent, leave, page: here } = page();
  createInsights({ page: here }).convert('q1', 'P-1');
  leave();
  expect(sent[0]!.events).toEqual([expect.objectContaining({ type: 'convert', recordId: 'P-1' })]);
});

test('what the browser does not take now goes with the next', () => {
  let full = true;
  const { sent, page: here } = page({}, () => !full);
  const insights = createInsights({ page: here });
  insights.click('q1', 'P-1', 1);
  insights.flush();
  expect(sent).toHaveLength(0);
  full = false;
  insights.click('q1', 'P-2', 2);
  jest.runAllTimers();
  expect(sent[0]!.events.map(({ recordId }) => recordId)).toEqual(['P-1', 'P-2']);
});

test('more than the server takes at once is sent in parts', () => {
  const { sent, page: here } = page();
  const insights = createInsights({ page: here });
  for (let i = 0; i < 250; i++) insights.view('q1', `P-${i}`, i + 1);
  jest.runAllTimers();
  expect(sent.map(({ events }) => events.length)).toEqual([100, 100, 50]);
});

test.each([[{ doNotTrack: '1' }], [{ globalPrivacyControl: true }]])(
  'a browser that asks with %j is left alone',
  (asks) => {
    const { sent, page: here } = page(asks);
    const insights = createInsights({ page: here });
    insights.click('q1', 'P-1', 1);
    jest.runAllTimers();
    expect([insights.active, insights.session, insights.viewer, sent.length]).toEqual([false, undefined, undefined, 0]);
    expect([sessionStorage.length, localStorage.length]).toEqual([0, 0]);
  },
);

test('a search of several collections is noted once, as one of the first', async () => {
  const insights = createInsights({ page: page().page });
  const asked: object[][] = [];
  const client = { multiSearch: (queries: object[]) => Promise.resolve(void asked.push(queries)) };
  const noting = insights.noting(client as unknown as YuccaClient, 'nursery', () => 'rose');
  await noting.multiSearch([{ collection: 'plants', q: 'rose', tags: ['sale'] }, { collection: 'guides', q: 'rose' }]); // prettier-ignore
  await noting.multiSearch([]);
  expect(asked[0]).toEqual([
    {
      collection: 'plants',
      q: 'rose',
      by: 'completion',
      session: insights.session,
      viewer: insights.viewer,
      tags: ['page:nursery', 'width:phone', 'sale'],
    },
    { collection: 'guides', q: 'rose' },
  ]);
  expect(asked[1]).toEqual([]);
});
