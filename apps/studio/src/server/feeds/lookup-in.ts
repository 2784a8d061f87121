import type { RecordJson } from '@yucca/contract';
import type { Db } from '../db/open';

/** Finds a record of a collection by its key; null when there is none. */
export type Lookup = (collection: string, key: string) => RecordJson | null;

/** Looks into the collections of a database. */
export function lookupIn(db: Db): Lookup {
  const find = db.$client
    .prepare('select json from records where collection_id = (select id from collections where name = ?) and key = ?')
    .pluck();
  return (collection, key) => {
    const json = find.get(collection, key) as string | undefined;
    return json === undefined ? null : (JSON.parse(json) as RecordJson);
  };
}
