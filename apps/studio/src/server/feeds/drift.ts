/** How far a collection has drifted from what its feed wrote, found by comparing keys and hashes. */
import type { FeedComparison, FeedDrift, RecordJson } from '@yucca/contract';
import type { Db } from '../db/open';
import { RecordError } from '../records/record-store';
import type { FeedTarget } from './apply-changes';
import { nothingCompared, SAMPLES } from './compare';
import { lookupIn } from './lookup-in';
import { differingFields, readLine, rulesOf } from './source-records';
import type { PrintedSource } from './sources/postgres';

/**
 * What somebody else has done to the records of a feed since it wrote them: the last state that its events told is
 * compared with what is here, by the numbers of versions and without reading a record. So no fields are named.
 */
export function localComparison(db: Db, { feedId, collectionId }: FeedTarget): FeedComparison {
  const told = nothingCompared();
  const written = db.$client.prepare('select count(*) from feed_keys where feed_id = ? and version > 0').pluck();
  told.records = written.get(feedId) as number;
  const others = db.$client.prepare(
    `select k.key as key, case when k.version = 0 then 'extra' when r.key is null then 'missing' else 'different' end as what
     from feed_keys k join feeds f on f.id = k.feed_id
     left join records r on r.collection_id = ? and r.key = k.key
     where k.feed_id = ? and case
       when k.version = 0 then r.key is not null
       when r.key is null then true
       else r.version_id <> k.version and not exists (
         select 1 from feed_keys o where o.feed_id in (select id from feeds where collection_id = f.collection_id) and o.key = k.key and o.version = r.version_id
       ) end
     order by k.key`,
  );
  const found = others.iterate(collectionId, feedId) as IterableIterator<{ key: string; what: 'missing' | 'different' | 'extra' }>; // prettier-ignore
  for (const { key, what } of found) {
    told[what]++;
    if (told.samples[what].length >= SAMPLES) continue;
    if (what === 'different') told.samples.different.push({ key, fields: [] });
    else told.samples[what].push(key);
  }
  told.same = told.records - told.missing - told.different;
  return told;
}

/** The same in numbers, and when it was looked. */
export function localDrift(db: Db, target: FeedTarget, now = Date.now()): FeedDrift {
  const { missing, different, extra } = localComparison(db, target);
  return { at: new Date(now).toISOString(), missing, different, extra };
}

/**
 * Compares a collection with a server that hashes its rows itself: only sums for each part of the keys are moved, then
 * keys and hashes of the parts that differ, and the rows of a few samples. A record that somebody else has changed
 * counts as one whose hash is not known.
 */
export async function compareByPrints(db: Db, target: FeedTarget, source: PrintedSource): Promise<FeedComparison> {
  const { feedId, collectionId } = target;
  const own = `from feed_keys k join records r on r.collection_id = ? and r.key = k.key and r.version_id = k.version where k.feed_id = ? and k.print is not null`;
  const sums = db.$client
    .prepare(`select k.part as part, count(*) || ' ' || sum(k.print) as told ${own} group by k.part`)
    .all(collectionId, feedId) as { part: number; told: string }[];
  const here = new Map(sums.map(({ part, told }) => [part, told]));
  const parts = [...new Set([...source.parts.keys(), ...here.keys()])].filter((part) => source.parts.get(part) !== here.get(part)); // prettier-ignore
  const told = { ...nothingCompared(), records: source.rows };
  const there = parts.length === 0 ? new Map<string, number>() : await source.inParts(parts);
  const prints = db.$client.prepare(`select k.print ${own} and k.key = ?`).pluck();
  const stored = db.$client.prepare('select json from records where collection_id = ? and key = ?').pluck();
  const different: string[] = [];
  for (const [key, print] of there) {
    if (prints.get(collectionId, feedId, key) === print) continue;
    if (stored.get(collectionId, key) === undefined) {
      told.missing++;
      if (told.samples.missing.length < SAMPLES) told.samples.missing.push(key);
    } else different.push(key);
  }
  // What this feed brought and its source has no more; and what no feed brought.
  const known = new Set(there.keys());
  const extra = db.$client
    .prepare(
      `select r.key from records r left join feed_keys k on k.feed_id = ? and k.key = r.key
       where r.collection_id = ? and (k.key is null or k.version is null or k.version = 0 or k.part is null or k.part in (select value from json_each(?)))`,
    )
    .pluck()
    .iterate(feedId, collectionId, JSON.stringify(parts)) as IterableIterator<string>;
  const candidates = [...extra].filter((key) => !known.has(key));
  const elsewhere = candidates.length === 0 ? new Map<string, never>() : await source.byKeys(candidates);
  for (const key of candidates) {
    if (elsewhere.has(key)) different.push(key);
    else {
      told.extra++;
      if (told.samples.extra.length < SAMPLES) told.samples.extra.push(key);
    }
  }
  // Somebody may have made of a record just what the source has: those rows are looked at.
  const rules = rulesOf(db, collectionId);
  const lookup = lookupIn(db);
  for (let at = 0; at < different.length; at += 500) {
    const rows = await source.byKeys(different.slice(at, at + 500));
    for (const key of different.slice(at, at + 500)) {
      const row = rows.get(key);
      const json = stored.get(collectionId, key) as string | undefined;
      if (row === undefined || json === undefined) continue;
      try {
        if ('error' in row) throw new RecordError(row.error);
        const fields = differingFields(JSON.parse(json) as RecordJson, readLine(row.json, target, lookup).record, rules); // prettier-ignore
        if (fields.length === 0) continue;
        told.different++;
        if (told.samples.different.length < SAMPLES) told.samples.different.push({ key, fields: fields.slice(0, 10) });
      } catch (error) {
        if (!(error instanceof RecordError)) throw error;
        told.unreadable++;
        if (told.samples.unreadable.length < SAMPLES)
          told.samples.unreadable.push({ line: 0, detail: `${key}: ${error.message}` });
      }
    }
  }
  told.same = told.records - told.missing - told.different - told.unreadable;
  return told;
}
