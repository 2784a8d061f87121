import { and, asc, eq, gt, inArray, lt, ne, sql } from 'drizzle-orm';
import { feedEvents, feedKeys, feedMessages } from '../db/feeds-schema';
import type { Db } from '../db/open';

const value = sql.placeholder;

/** What is asked and written for each change of a source: prepared once, as there may be hundreds a second. */
export function changeStatements(db: Db) {
  const ofFeed = eq(feedEvents.feedId, value('feedId'));
  const byNumber = eq(feedEvents.number, value('number'));
  const key = and(eq(feedKeys.feedId, value('feedId')), eq(feedKeys.key, value('key')));
  const patchesOfKey = and(ofFeed, eq(feedEvents.key, value('key')), eq(feedEvents.action, 'patch'));
  const olderPatches = and(patchesOfKey, lt(feedEvents.order, value('order')));
  return {
    noteMessage: db
      .insert(feedMessages)
      .values({ feedId: value('feedId'), message: value('message'), at: value('at') })
      .onConflictDoNothing()
      .prepare(),
    /** Nothing is returned for an event that is known. */
    addEvent: db
      .insert(feedEvents)
      .values({
        feedId: value('feedId'),
        source: value('source'),
        event: value('event'),
        type: value('type'),
        key: value('key'),
        action: value('action'),
        data: value('data'),
        order: value('order'),
        state: 'waiting',
        receivedAt: value('receivedAt'),
      })
      .onConflictDoNothing()
      .returning()
      .prepare(),
    waiting: db
      .select()
      .from(feedEvents)
      .where(and(ofFeed, eq(feedEvents.state, 'waiting')))
      .orderBy(asc(feedEvents.number))
      .limit(value('most'))
      .prepare(),
    /** The state of an event that may have to be applied, or shown, again. */
    setState: db
      .update(feedEvents)
      .set({ state: sql`${value('state')}`, reason: sql`${value('reason')}` })
      .where(byNumber)
      .prepare(),
    /** The state of an event whose record is needed no more. */
    setDone: db
      .update(feedEvents)
      .set({ state: sql`${value('state')}`, reason: sql`${value('reason')}`, data: null })
      .where(byNumber)
      .prepare(),
    setApplied: db.update(feedEvents).set({ state: 'applied' }).where(byNumber).prepare(),
    newestOfKey: db.select({ order: feedKeys.order }).from(feedKeys).where(key).prepare(),
    /** The newest whole state of a key, and the version that the feed wrote of it. */
    setNewest: db
      .insert(feedKeys)
      .values({ feedId: value('feedId'), key: value('key'), order: value('order'), version: value('version') })
      .onConflictDoUpdate({
        target: [feedKeys.feedId, feedKeys.key],
        set: { order: sql`excluded."order"`, version: sql`excluded.version`, print: null },
      })
      .prepare(),
    setVersion: db
      .update(feedKeys)
      .set({ version: sql`${value('version')}` })
      .where(key)
      .prepare(),
    setPrint: db
      .update(feedKeys)
      .set({ print: sql`${value('hash')}`, part: sql`${value('part')}` })
      .where(key)
      .prepare(),
    /** Patches of a key that are newer than a change and were applied, or wait for their record; the oldest first. */
    patchesAfter: db
      .select()
      .from(feedEvents)
      .where(
        and(
          patchesOfKey,
          gt(feedEvents.order, value('order')),
          inArray(feedEvents.state, ['applied', 'early']),
          ne(feedEvents.number, value('number')),
        ),
      )
      .orderBy(asc(feedEvents.order), asc(feedEvents.number))
      .prepare(),
    /** Those that a newer whole state makes needless. */
    forgetEarly: db
      .update(feedEvents)
      .set({ state: 'old', data: null })
      .where(and(olderPatches, eq(feedEvents.state, 'early')))
      .prepare(),
    forgetApplied: db
      .update(feedEvents)
      .set({ data: null })
      .where(and(olderPatches, eq(feedEvents.state, 'applied')))
      .prepare(),
  };
}
