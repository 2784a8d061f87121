import { recordsThat } from '@yucca/engine';
import type { Db } from '../db/open';

interface Row {
  key: string;
  json: string;
}

/**
 * Those of some records, by their keys and in that order, that fulfil a condition as they stand in the database now.
 */
export function rowsThat(db: Db, collectionId: number, filter: string, keys: readonly string[]): Row[] {
  const find = db.$client.prepare('select key, json from records where collection_id = ? and key = ?');
  const read = db.$client.transaction(() =>
    keys.flatMap((key) => (find.get(collectionId, key) as Row | undefined) ?? []),
  );
  return recordsThat(read(), filter);
}
