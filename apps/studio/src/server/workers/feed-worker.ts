/** The feed thread: asks sources for their records, so that a slow or hostile one holds up nobody else. */
import type { FeedComparison, FeedPreviewAnswer, PostgresSource, PulledSource, SqliteSource } from '@yucca/contract';
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { lookupIn } from '../feeds/lookup-in';
import type { Mapping } from '../feeds/mapping';
import { SHOWN, shownRecord } from '../feeds/shown-record';
import { READERS } from '../feeds/sources';
import { keyOf } from '../feeds/sources/poll';
import type { ReadOrder, SourceBatch, SourceEnd, SourceReader } from '../feeds/sources/source';
import { opened } from '../feeds/sources/sqlite';
import { triggersOf, withoutTriggers } from '../feeds/sources/sqlite-log';
import { openPrinted, unfollow } from '../feeds/sources/postgres';
import type { FeedTarget } from '../feeds/apply-changes';
import { compareByPrints } from '../feeds/drift';
import { serve, StateLost } from './rpc';
import type { ThreadData } from './spawn';

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });
const reading = new Map<string, AsyncGenerator<SourceBatch, SourceEnd>>();

export type Piece = { batch: SourceBatch } | { end: SourceEnd };

const readerOf = (source: PulledSource): SourceReader<PulledSource> =>
  READERS[source.kind] as SourceReader<PulledSource>;

const methods = {
  /** Begins to read a source; its pieces come one by one. */
  open(id: string, source: PulledSource, order: ReadOrder): void {
    reading.set(id, readerOf(source).read(source, order));
  },

  /** The next piece. What came before it is stored when this is asked for. Throws a SourceError. */
  async next(id: string): Promise<Piece> {
    const pieces = reading.get(id);
    if (!pieces) throw new StateLost('the source was being read by another');
    try {
      const next = await pieces.next();
      if (!next.done) return { batch: next.value };
      reading.delete(id);
      return { end: next.value };
    } catch (error) {
      reading.delete(id);
      throw error;
    }
  },

  async close(id: string): Promise<void> {
    const pieces = reading.get(id);
    reading.delete(id);
    // A source that hangs is let go of when its time is over.
    void pieces?.return({ whole: false, position: null, unchanged: true }).catch(() => {});
  },

  /** The first records of a source, as they come and as they would be stored. Throws a SourceError. */
  async preview(source: PulledSource, order: ReadOrder, mapping: Mapping): Promise<FeedPreviewAnswer> {
    // Nothing of it is to be made in the source: its rows are read, not its log.
    const asked: PulledSource =
      source.kind === 'sqlite'
        ? { ...source, log: false }
        : source.kind === 'postgres'
          ? { ...source, follow: false }
          : source;
    const pieces = readerOf(asked).read(asked, { ...order, whole: true });
    const shown: FeedPreviewAnswer = { records: [], key: null };
    for await (const { records, key } of pieces) {
      if (records.length === 0) continue;
      const found = source.key ?? keyOf(records, key);
      const isThere = records.some((line) => 'json' in line && Object.hasOwn(Object(JSON.parse(line.json)), found));
      shown.key = isThere ? found : null;
      for (const line of records.slice(0, SHOWN - shown.records.length)) shown.records.push(shownLine(line, mapping));
      break;
    }
    return shown;
  },

  /** The statements that make the change log of a table, or take it away; told, or run in its file at once. */
  async triggers(
    source: SqliteSource,
    feedId: string,
    loadDir: string | null,
    what: 'told' | 'make' | 'drop',
  ): Promise<string> {
    const text = what === 'drop' ? withoutTriggers(feedId) : triggersOf(feedId, source.table ?? '', source.key);
    if (what === 'told') return text;
    const file = await opened(source, loadDir, false);
    try {
      file.transaction(() => file.exec(text))();
    } finally {
      file.close();
    }
    return text;
  },

  /** Compares a collection with a server that hashes its rows itself. Throws a SourceError. */
  async compareByPrints(source: PostgresSource, target: FeedTarget): Promise<FeedComparison> {
    const printed = await openPrinted(source);
    try {
      return await compareByPrints(db, target, printed);
    } finally {
      await printed.close();
    }
  },

  /** Takes away what following a PostgreSQL server has left there. Throws a SourceError. */
  unfollow,
};

function shownLine(line: SourceBatch['records'][0], mapping: Mapping): FeedPreviewAnswer['records'][0] {
  if ('error' in line)
    return { before: {}, after: null, problem: `${'key' in line ? line.key : `Line ${line.line}`}: ${line.error}.` };
  return shownRecord(line.json, mapping, lookupIn(db));
}

export type FeedMethods = typeof methods;

serve(methods);
