import { isFailure } from '../src/server/failure';
import { House, lines } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants', key: 'id' });
  const rows = Array.from({ length: 300 }, (_, i) => ({ id: `p${i}`, name: `plant ${i}`, n: i % 7, m: i % 5 }));
  await house.load('plants', lines(rows), 'application/x-ndjson');
});
afterAll(() => house.leave());

const draft = () => house.yucca.tunings.get('plants', 'draft');

test('changes to the draft that come at once are all in it', async () => {
  const { tunings } = house.yucca;
  await Promise.all([
    tunings.patchDraft('plants', { signalShare: 0.4 }),
    tunings.patchDraft('plants', { stopWords: ['the'] }),
    tunings.patchDraft('plants', { typos: { oneFrom: 5 } }),
    // This one needs another index, so the others come while it is made.
    tunings.patchDraft('plants', { sorts: [{ name: 'by-n', by: [{ field: 'n', order: 'asc' }] }] }),
    tunings.patchDraft('plants', { language: 'de' }),
  ]);
  expect(draft()).toMatchObject({
    signalShare: 0.4,
    stopWords: ['the'],
    typos: { oneFrom: 5 },
    sorts: [{ name: 'by-n' }],
    language: 'de',
  });
});

test('of changes that all want the same draft, one is taken and the others are told', async () => {
  const { tunings } = house.yucca;
  const tag = tunings.tagOf(draft());
  const all = await Promise.allSettled(
    Array.from({ length: 6 }, (_, i) => tunings.patchDraft('plants', { signalShare: i / 10 }, tag)),
  );
  const refused = all.flatMap((one) => (one.status === 'rejected' ? [one.reason as unknown] : []));
  expect(refused).toHaveLength(5);
  expect(refused.every((error) => isFailure(error) && error.code === 'stale')).toBe(true);
});

test('a change that is saved while a draft is published is live or in the draft, never gone', async () => {
  const { tunings } = house.yucca;
  for (let round = 0; round < 12; round++) {
    const word = `word${round}`;
    // Every other round the publishing has an index to make first.
    if (round % 2 === 0)
      await tunings.patchDraft('plants', { group: round % 4 === 0 ? { field: 'm', keep: 1 } : null, facets: [{ name: 'f', field: round % 4 === 0 ? 'n' : 'm' }] }); // prettier-ignore
    else await tunings.patchDraft('plants', { signalShare: round / 100 });
    await Promise.all([
      tunings.publish('plants', null),
      tunings.patchDraft('plants', { stopWords: [word] }),
      tunings.publish('plants', null),
    ]);
    const kept = [tunings.get('plants', 'live'), draft()].some(({ stopWords }) => stopWords?.includes(word));
    expect([round, kept]).toEqual([round, true]);
  }
});

test('publishing beside writes, on several collections at once, never meets a locked database', async () => {
  const names = ['a', 'b', 'c', 'd'];
  for (const name of names) await house.yucca.collections.create({ name });
  const { tunings, records } = house.yucca;
  let writing = true;
  const writers = names.map(async (name) => {
    for (let i = 0; writing; i++) await records.put(name, `r${i % 40}`, { name: `record ${i}` }, 'replace');
  });
  await Promise.all(
    names.map(async (name) => {
      for (let i = 1; i <= 40; i++) {
        await tunings.patchDraft(name, { signalShare: i / 100 });
        await tunings.publish(name, null);
      }
    }),
  );
  writing = false;
  await Promise.all(writers);
  for (const name of names) expect(house.yucca.collections.get(name).liveVersion).toBe(41);
});
