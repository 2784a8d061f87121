import type { RecordJson } from '@yucca/contract';
import type { Db } from '../db/open';

interface Row {
  key: string;
  json: string;
}

/** The records of a collection in record order; only those whose key is in `keys`, when it is given. */
export function* eachRecord(
  db: Db,
  collectionId: number,
  keys: ReadonlySet<string> | null,
): Generator<Row & { record: () => RecordJson }> {
  const rows = db.$client
    .prepare('select key, json from records where collection_id = ? order by ord')
    .iterate(collectionId) as IterableIterator<Row>;
  for (const row of rows) {
    if (keys !== null && !keys.has(row.key)) continue;
    yield { ...row, record: () => JSON.parse(row.json) as RecordJson };
  }
}
