import { desc, lt } from 'drizzle-orm';
import type { Db } from '../db/open';
import { visitorEvents } from '../db/schema';

/** Events kept at the most, whatever their age. */
const MOST = 1_000_000;

/** Clears away events that are older than so many days, and the oldest when there are too many. */
export function trimEvents(db: Db, days: number, most = MOST): void {
  const oldest = new Date(Date.now() - days * 86_400_000).toISOString();
  db.delete(visitorEvents).where(lt(visitorEvents.at, oldest)).run();
  const newest = db.select({ id: visitorEvents.id }).from(visitorEvents).orderBy(desc(visitorEvents.id)).limit(1).get();
  if (newest)
    db.delete(visitorEvents)
      .where(lt(visitorEvents.id, newest.id - most + 1))
      .run();
}
