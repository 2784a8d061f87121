import type { RecordJson } from '@yucca/contract';
import { recordsThat } from '@yucca/engine';
import type { Db } from '../db/open';
import { beat } from '../workers/rpc';

const BEAT_EVERY = 500;

interface Row {
  key: string;
  json: string;
}

/** Records held against a condition at once. */
const FILTERED_AT_ONCE = 500;

/** The records of a collection in record order; with a condition, those that fulfil it just as they are read here. */
export function* eachRecord(
  db: Db,
  collectionId: number,
  filter: string | null,
): Generator<Row & { record: () => RecordJson }> {
  const rows = db.$client
    .prepare('select key, json from records where collection_id = ? order by ord')
    .iterate(collectionId) as IterableIterator<Row>;
  let read = 0;
  for (const row of filter === null ? rows : filtered(rows, filter)) {
    if (++read % BEAT_EVERY === 0) beat();
    yield { ...row, record: () => JSON.parse(row.json) as RecordJson };
  }
}

function* filtered(rows: IterableIterator<Row>, filter: string): Generator<Row> {
  let piece: Row[] = [];
  for (const row of rows) {
    piece.push(row);
    if (piece.length < FILTERED_AT_ONCE) continue;
    yield* recordsThat(piece, filter);
    piece = [];
  }
  yield* recordsThat(piece, filter);
}
