import { eq } from 'drizzle-orm';
import type { Db } from '../db/open';
import { settings } from '../db/schema';

const LAST_CLOCK = 'last-clock';

/** The time that was written down last, in milliseconds since 1970; 0 when none was. */
export function lastClock(db: Db): number {
  return Number(db.select().from(settings).where(eq(settings.name, LAST_CLOCK)).get()?.value ?? 0);
}

/** Writes down what time it is, so that a clock set back while the server is down revives nothing. */
export function writeClock(db: Db, now: number): void {
  const value = String(Math.floor(now));
  db.insert(settings)
    .values({ name: LAST_CLOCK, value })
    .onConflictDoUpdate({ target: settings.name, set: { value } })
    .run();
}
