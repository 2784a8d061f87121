import type { PastSearch } from '@yucca/contract';
import { and, asc, between, eq, gt, inArray, ne } from 'drizzle-orm';
import { settledAnswers, settledSearches } from '../db/insights-schema';
import type { Db } from '../db/open';
import { visitorEvents } from '../db/schema';
import { DAY_MS } from './count';
import type { InsightScope } from './read-insights';

/** Some of the searches that are kept, and where to go on after them; null at the end. */
export interface SearchesPart {
  searches: PastSearch[];
  next: number | null;
}

/**
 * Single searches as they are kept, after the one numbered `after`: in the form in which searches are brought in. Ids
 * of visits and viewers are the hashes that stand for them.
 */
export function exportSearches(
  db: Db,
  { collectionId, range }: Pick<InsightScope, 'collectionId' | 'range'>,
  after: number,
  size: number,
): SearchesPart {
  const { id, at } = settledSearches;
  const rows = db
    .select()
    .from(settledSearches)
    .where(
      and(
        eq(settledSearches.collectionId, collectionId),
        gt(id, after),
        between(at, range.from * DAY_MS, (range.to + 1) * DAY_MS - 1),
      ),
    )
    .orderBy(asc(id))
    .limit(size)
    .all();
  const did = db
    .select({ searchId: settledAnswers.searchId, event: visitorEvents })
    .from(settledAnswers)
    .innerJoin(visitorEvents, eq(visitorEvents.queryId, settledAnswers.queryId))
    .where(
      and(
        inArray(
          settledAnswers.searchId,
          rows.map((row) => row.id),
        ),
        ne(visitorEvents.type, 'search'),
      ),
    )
    .orderBy(asc(visitorEvents.id))
    .all();
  const searches = rows.map((row): PastSearch => {
    const events = did.filter(({ searchId }) => searchId === row.id).map(({ event }) => event);
    const of = (type: string) => events.filter((event) => event.type === type);
    const shown = of('view').map(({ recordId }) => recordId);
    const clicks = of('click').map(({ recordId, position }) => ({ recordId, position: position ?? 1 }));
    return {
      at: new Date(row.at).toISOString(),
      q: row.text,
      session: row.session,
      viewer: row.visitor,
      total: row.total,
      ms: row.ms,
      tags: JSON.parse(row.tags) as string[],
      ...(row.choices !== null && { select: JSON.parse(row.choices) as NonNullable<PastSearch['select']> }),
      ...(row.chosen && { chosen: true }),
      ...(shown.length > 0 && { shown: [...new Set(shown)].slice(0, 200) }),
      ...(clicks.length > 0 && { clicks: clicks.slice(0, 200) }),
      ...(row.conversions > 0 && { conversions: Math.min(row.conversions, 1_000) }),
    };
  });
  return { searches, next: rows.length < size ? null : rows.at(-1)!.id };
}
