import { completeTuning, type OfflineCollection, type TuningDocument } from '@yucca/contract';
import { partSegment, planFor, search, Segment, SegmentBuilder, Tombstones } from '@yucca/engine';
import { OfflineCollections, OfflineError } from '../src/index.ts';

const tuning: TuningDocument = { search: [{ field: 'name' }], facets: [{ name: 'colour', field: 'colour' }] };
const records = Array.from({ length: 90 }, (_, i) => ({
  id: `p${i}`,
  name: `${['Fern', 'Lavender', 'Rose'][i % 3]} number ${i}`,
  colour: ['red', 'white'][i % 2],
  care: 'x'.repeat(50),
}));
const builder = new SegmentBuilder(planFor([completeTuning(tuning)]));
records.forEach((record, i) =>
  builder.add({ versionId: i + 1, order: i + 1, key: record.id, json: JSON.stringify(record) }),
);
const buffer = builder.finish((bytes) => new ArrayBuffer(bytes));
const { index, parts, firstDocs } = partSegment(buffer, 1_000);
const file: OfflineCollection = { tuning, records: 90, index: 'index', parts: parts.map((_, i) => `part-${i}`), firstDocs, indexBytes: 1, partsBytes: 1 }; // prettier-ignore

/** Files as a site has them; those named fail. */
function site(broken = new Set<string>()) {
  const asked: string[] = [];
  const load = (path: string): Promise<Uint8Array> => {
    asked.push(path);
    if (broken.has(path)) return Promise.reject(new OfflineError(`no ${path}`));
    return Promise.resolve(path === 'index' ? index : parts[Number(path.slice(5))]!);
  };
  return { asked, collections: new OfflineCollections({ plants: file }, load) };
}
const whole = { number: 1, segments: [{ segment: new Segment(buffer), dead: Tombstones.none(90, (bytes) => new ArrayBuffer(bytes)) }] }; // prettier-ignore

test('answers are those of the whole; only the parts of what is shown are fetched, and once', async () => {
  const { asked, collections } = site();
  const request = { q: 'lavender', facets: ['*'], size: 3 };
  const { queryId, timing, ...answer } = await collections.search('plants', request);
  expect(answer).toEqual(search(whole, completeTuning(tuning), request));
  expect([queryId, timing.engineMs >= 0]).toEqual(['', true]);
  const first = asked.length;
  expect(first).toBeLessThan(5);
  await collections.search('plants', request);
  expect(asked).toHaveLength(first);
  expect(await collections.record('plants', 'p7')).toEqual(records[7]);
  expect(await collections.record('plants', 'nobody')).toBeNull();
  expect((await collections.facetValues('plants', 'colour', 're', {})).values).toMatchObject([{ value: 'red', count: 45 }]); // prettier-ignore
});

test('a condition over texts that stand in the records alone fetches all of them first', async () => {
  const { asked, collections } = site();
  const filter = `name = 'Rose number 2'`;
  const answer = await collections.search('plants', { filter });
  expect(answer.results.map(({ id }) => id)).toEqual(['p2']);
  expect(new Set(asked).size).toBe(parts.length + 1);
});

test('what could not be fetched is asked for again by the next question', async () => {
  const broken = new Set(['index']);
  const { asked, collections } = site(broken);
  await expect(collections.search('plants', {})).rejects.toThrow('no index');
  broken.clear();
  broken.add('part-0');
  await expect(collections.search('plants', {})).rejects.toThrow('no part-0');
  broken.clear();
  expect((await collections.search('plants', {})).total).toBe(90);
  expect(asked.filter((path) => path === 'part-0')).toHaveLength(2);
});
