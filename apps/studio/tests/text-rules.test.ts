/** An index whose words were made by other rules answers while it is made anew. */
import { TEXT_RULES } from '@yucca/engine';
import { eq } from 'drizzle-orm';
import { segments } from '../src/server/db/schema';
import { House, lines } from './house';

let house: House;
beforeAll(async () => {
  house = await new House().open();
});
afterAll(() => house.leave());

const plans = () =>
  house.yucca.db
    .select()
    .from(segments)
    .all()
    .map(({ plan }) => JSON.parse(plan) as { textRules?: number });

test.each([
  ['of before there were others', {}],
  ['of other rules', { textRules: 1, wordEnds: true }],
])('an index %s is opened as it is, and built again beside that', async (name, older) => {
  const { collections } = house.yucca;
  const collection = name.replaceAll(' ', '-');
  await collections.create({ name: collection });
  const rows = Array.from({ length: 3_000 }, (_, i) => ({ id: `p${i}`, name: `fern ${i} 🌱` }));
  await house.load(collection, lines(rows), 'application/x-ndjson');
  for (const { id, plan } of house.yucca.db.select().from(segments).all()) {
    const rest = { ...(JSON.parse(plan) as { textRules?: number }), textRules: undefined };
    const made = JSON.stringify({ ...rest, ...older });
    house.yucca.db.update(segments).set({ plan: made }).where(eq(segments.id, id)).run();
  }
  await house.reopen();
  const { indexManager } = house.yucca;
  const { id } = house.yucca.collections.row(collection);
  expect(indexManager.readiness(id).state).toBe('ready');
  // All of it answers at once, the draft as well.
  expect((await house.search(collection, '🌱')).total).toBe(3_000);
  expect((await house.yucca.search.search(collection, { q: 'fern', version: 'draft' })).total).toBe(3_000);
  await indexManager.ensure(id)?.ended;
  expect(indexManager.ensure(id)).toBeNull();
  expect(plans().every(({ textRules }) => textRules === TEXT_RULES)).toBe(true);
  expect((await house.search(collection, '🌱')).total).toBe(3_000);
});
