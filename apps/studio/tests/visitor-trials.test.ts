/** @jest-environment node */
/** Live against draft on visitors: who takes part, what counts, how it ends. */
import type { SearchRequest, TuningDocument, VisitorEvent } from '@yucca/contract';
import { House, lines } from './house';

const NDJSON = 'application/x-ndjson';
let house: House;
const LIVE: TuningDocument = { search: [{ field: 'name' }], facets: [{ name: 'shop', field: 'shop' }], signals: [{ field: 'sales', order: 'asc' }], signalShare: 1 }; // prettier-ignore
/** The other way round. */
const DRAFT: TuningDocument = { ...LIVE, signals: [{ field: 'sales' }] };

beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
  await house.yucca.tunings.replaceDraft('plants', LIVE);
  await house.yucca.tunings.publish('plants', null);
  const records = Array.from({ length: 40 }, (_, i) => ({ id: `p${i}`, name: 'fern', shop: i % 2 ? 'north' : 'south', sales: i + 1 })); // prettier-ignore
  await house.load('plants', lines(records), NDJSON);
  await house.yucca.tunings.replaceDraft('plants', DRAFT);
  await house.yucca.tunings.building('plants');
});
afterEach(() => house.leave());

const ask = (more: SearchRequest = {}, unnoted = false) =>
  house.yucca.search.search('plants', { q: 'fern', size: 10, ...more }, { unnoted: () => unnoted });
const ids = async (more: SearchRequest = {}, unnoted = false): Promise<string[]> =>
  (await ask(more, unnoted)).results.map(({ id }) => id);
let told = 0;
const open = (queryId: string, recordId: string, type: VisitorEvent['type'] = 'click'): void => {
  house.yucca.visitorEvents.take([{ type, queryId, recordId, session: 'any', id: `event-${told++}` }]);
};
const trial = () => house.yucca.visitorTrials.read('plants');

/** A visitor who opens the first result that sells well (or badly), if there is one in sight. */
async function visit(session: string, likes: (sales: number) => boolean): Promise<void> {
  const { queryId, results } = await ask({ session });
  const liked = results.find(({ id }) => likes(Number(id.slice(1))));
  if (liked) open(queryId, liked.id);
}

test('visitors who like what the draft puts first make it win; nothing is counted twice', async () => {
  await house.yucca.visitorTrials.start('plants');
  for (let n = 0; n < 20; n++) await visit(`visit-${n}`, (sales) => sales > 25);
  expect(trial()).toMatchObject({ state: 'running', visits: 20, wins: { live: 0, draft: 20 }, preferred: 'draft', draftChanged: false }); // prettier-ignore
  expect(trial().confidence).toBeGreaterThan(0.99);
  const { queryId, results } = await ask({ session: 'visit-3' });
  const of = results.filter(({ id }) => Number(id.slice(1)) > 25).map(({ id }) => id);
  open(queryId, of[0]!);
  open(queryId, of[0]!);
  open(queryId, of[1]!);
  open(queryId, of[1]!, 'view');
  open('no-such-answer', of[1]!);
  open(queryId, 'no-such-record');
  expect(trial()).toMatchObject({ visits: 20, wins: { live: 0, draft: 20 } });
  // What live alone put there takes the lead back, and then there are more of it.
  const ofLive = results.filter(({ id }) => Number(id.slice(1)) <= 25).map(({ id }) => id);
  for (const id of ofLive.slice(0, 2)) open(queryId, id);
  expect(trial()).toMatchObject({ wins: { live: 0, draft: 19 }, ties: 1 });
  open(queryId, ofLive[2]!);
  expect(trial()).toMatchObject({ wins: { live: 1, draft: 19 }, ties: 0 });
});

test('who takes no part gets live as it is', async () => {
  const live = await ids();
  await house.yucca.visitorTrials.start('plants');
  const part = { session: 'somebody' };
  expect(await ids(part)).not.toEqual(live);
  expect(await ids()).toEqual(live);
  expect(await ids(part, true)).toEqual(live);
  expect(await ids({ ...part, record: false })).toEqual(live);
  expect(await ids({ ...part, version: 'live', q: '' })).toEqual(await ids({ q: '' }));
  expect(await ids({ ...part, version: 'draft' })).toEqual(await ids({ version: 'draft' }));
  // A later page of a list that began with live.
  expect(await ids({ session: 'late', page: 2 })).toEqual(await ids({ page: 2 }));
  // The pages of a visit fit together, with what is chosen too.
  for (const select of [undefined, { shop: ['north'] }]) {
    const pages = [];
    for (const page of [1, 2, 3, 4]) pages.push(...(await ids({ ...part, page, ...(select && { select }) })));
    expect(new Set(pages).size).toBe(pages.length);
    expect(pages).toHaveLength(select ? 20 : 40);
  }
});

test('it ends when it is stopped, with a publish, and with the collection; what came out stays', async () => {
  const { visitorTrials, tunings } = house.yucca;
  expect(trial()).toMatchObject({ state: 'none' });
  expect(() => visitorTrials.stop('plants')).toThrow('No trial is running');
  await visitorTrials.start('plants');
  await expect(visitorTrials.start('plants')).rejects.toThrow('running already');
  for (let n = 0; n < 3; n++) await visit(`visit-${n}`, (sales) => sales < 10);
  // It goes on after a restart.
  await house.reopen();
  expect(trial()).toMatchObject({ state: 'running', wins: { live: 3, draft: 0 }, preferred: 'live' });
  // Visitors get the draft as it was.
  await house.yucca.tunings.replaceDraft('plants', { ...DRAFT, stopWords: ['a'] });
  expect(trial()).toMatchObject({ state: 'running', draftChanged: true });
  expect(house.yucca.visitorTrials.stop('plants')).toMatchObject({ state: 'ended', ended: 'stopped', wins: { live: 3, draft: 0 } }); // prettier-ignore
  expect(await ids({ session: 'after' })).toEqual(await ids());
  await house.yucca.visitorTrials.start('plants');
  expect(trial()).toMatchObject({ state: 'running', visits: 0 });
  await house.yucca.tunings.publish('plants', null);
  expect(trial()).toMatchObject({ state: 'ended', ended: 'published' });
  await expect(house.yucca.visitorTrials.start('plants')).rejects.toThrow('nothing to try');
  expect(tunings).not.toBe(house.yucca.tunings);
});

test('results that are grouped in different ways are not mixed', async () => {
  await house.yucca.tunings.replaceDraft('plants', { ...DRAFT, group: { field: 'shop' } });
  await house.yucca.tunings.building('plants');
  await expect(house.yucca.visitorTrials.start('plants')).rejects.toThrow('group results in different ways');
});

test('a visit that opens without end counts no more than a person would, and can be erased', async () => {
  await house.yucca.visitorTrials.start('plants');
  for (const q of ['f', 'fe', 'fer', 'fern']) {
    const { queryId, results } = await ask({ session: 'machine', q, size: 40 });
    for (const { id } of results) open(queryId, id);
  }
  const { n } = house.yucca.db.$client.prepare('select count(*) as n from visitor_trial_clicks').get() as { n: number };
  expect(n).toBe(50);
  expect(trial().visits).toBe(1);
  await house.yucca.insights.erase('plants', { query: 'f' });
  await house.yucca.insights.erase('plants', { query: 'fe' });
  await house.yucca.insights.erase('plants', { query: 'fern' });
  expect(trial()).toMatchObject({ visits: 0, wins: { live: 0, draft: 0 }, ties: 0 });
});

test('two rankings that visitors like alike: seldom a winner', async () => {
  await house.yucca.visitorTrials.start('plants');
  // Every visitor opens one result of the first ten, whichever side it is from.
  for (let n = 0; n < 120; n++) {
    const { queryId, results } = await ask({ session: `visit-${n}` });
    open(queryId, results[(n * 7) % results.length]!.id);
  }
  const { wins, confidence } = trial();
  expect(wins.live + wins.draft).toBeGreaterThan(60);
  expect(confidence).toBeLessThan(0.95);
});
