import { visitorEvents } from '../src/server/db/schema';
import { validate } from '../src/server/validate';
import { House } from './house';

let house: House;
beforeAll(async () => void (house = await new House().open()));
afterAll(() => house.leave());

const stored = () => house.yucca.db.select().from(visitorEvents).all();

test('events are kept with the moment they tell, and are not counted when it is more than a day off', () => {
  const now = Date.parse('2026-05-01T12:00:00Z');
  const event = (at?: string) => ({ type: 'click' as const, queryId: 'q', recordId: 'P-1', ...(at && { at }) });
  const told = ['2026-05-01T11:59:58Z', '2026-05-02T00:00:00Z', '2020-01-01T00:00:00Z', undefined];
  expect(
    house.yucca.visitorEvents.take(
      told.map((at) => event(at)),
      now,
    ),
  ).toBe(3);
  expect(stored().map(({ at }) => at)).toEqual([
    '2026-05-01T11:59:58.000Z',
    '2026-05-01T12:00:00.000Z',
    '2026-05-01T12:00:00.000Z',
  ]);
});

test.each([
  [{ type: 'view' as const, queryId: 'q' }, '/events/1/recordId'],
  [{ type: 'search' as const, queryId: 'q' }, '/events/1/session'],
])('%j is refused, with all that came with it', (event, pointer) => {
  const before = stored().length;
  const good = { type: 'view' as const, queryId: 'q', recordId: 'P-1' };
  const refused = expect(() => house.yucca.visitorEvents.take([good, event]));
  refused.toThrow(expect.objectContaining({ code: 'invalid', parts: [{ pointer, detail: 'is missing' }] }));
  expect(stored()).toHaveLength(before);
});

test('an event that comes again with its id counts once', () => {
  const before = stored().length;
  const event = { type: 'click' as const, id: 'event-1', queryId: 'q', recordId: 'P-1' };
  expect(house.yucca.visitorEvents.take([event, { ...event, id: 'event-2' }])).toBe(2);
  expect(house.yucca.visitorEvents.take([event])).toBe(0);
  expect(stored()).toHaveLength(before + 2);
});

test.each([
  [{ events: [] }, ''],
  [{ events: [{ type: 'look', queryId: 'q', recordId: 'P' }] }, '/events/0/type'],
  [{ events: [{ type: 'view', queryId: 'q', recordId: 'P', position: 0 }] }, '/events/0/position'],
  [{ events: [{ type: 'view', queryId: 'q', recordId: 'P', who: 'me' }] }, '/events/0/who'],
])('%j is refused', (body, pointer) => {
  expect(() => validate('Events', body)).toThrow(pointer);
});
