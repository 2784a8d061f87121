/** Records that are written one by one and all at once, past every size at which the part in memory becomes another. */
import { FRESH_RECORDS, NEWEST_RECORDS } from '../src/server/index/segment-builds';
import { House } from './house';

let house: House;
beforeEach(async () => {
  house = await new House().open();
  await house.yucca.collections.create({ name: 'plants' });
});
afterEach(() => house.leave());

/** A generator of numbers that are the same each time (Lehmer). */
const dice =
  (seed: number) =>
  (below: number): number =>
    (seed = (seed * 48_271) % 0x7fffffff) % below;

/**
 * What must be found, without misspellings: every record under the word it was given last, and none under one from
 * before.
 */
async function expectAll(truth: Map<string, string>, words: Iterable<string>): Promise<void> {
  expect((await house.search('plants', '')).total).toBe(truth.size);
  for (const word of words) {
    const wanted = [...truth].filter(([, one]) => one === word).map(([key]) => key);
    expect({ word, found: (await house.ids('plants', { q: `"${word}"`, size: 100 })).sort() }).toEqual({ word, found: wanted.sort() }); // prettier-ignore
  }
}

test.each([NEWEST_RECORDS * 2, FRESH_RECORDS * 2])(
  'of %s keys that are created, changed and deleted without a pause each is found as it stands',
  async (keys) => {
    const { records, indexManager, collections, tunings } = house.yucca;
    const draw = dice(keys);
    const truth = new Map<string, string>();
    const used = new Set<string>();
    const step = async (n: number): Promise<void> => {
      const key = `k${draw(keys)}`;
      if (draw(6) === 0) {
        truth.delete(key);
        await records.remove('plants', [key]);
        return;
      }
      // Few enough that a page shows them all.
      const word = `word${String.fromCharCode(97 + (n % 26), 97 + (Math.floor(n / 26) % 26))}`;
      truth.set(key, word);
      used.add(word);
      await records.put('plants', key, { name: word }, 'replace');
    };
    const { id } = collections.row('plants');
    for (let n = 0; n < keys * 2;) {
      const together = [1, 7, 60, 400][draw(4)]!;
      const steps: Promise<void>[] = [];
      for (let i = 0; i < together; i++) steps.push(step(n++));
      await Promise.all(steps);
      if (draw(3) === 0) await expectAll(truth, [...used].slice(-2));
      // Another plan in the middle of it: what is in memory was built by the one before.
      if (draw(12) === 0) await tunings.patchDraft('plants', { facets: [{ name: `f${n}`, field: 'name' }] });
    }
    await expectAll(truth, used);
    const { generation } = indexManager.facts(id);
    await house.reopen();
    await expectAll(truth, [...used].slice(0, 40));
    expect(house.yucca.indexManager.facts(id).generation).toBeGreaterThan(generation);
  },
);
