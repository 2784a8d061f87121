/** The scan thread: whatever has to go through all records of a collection without changing them. */
import type {
  BackupFacts,
  Card,
  FeedComparison,
  FeedDrift,
  FieldRule,
  Insights,
  InspectionAnswer,
  Page,
  Profile,
  RuleEffect,
  VisitorJudgements,
} from '@yucca/contract';
import { foldWords } from '@yucca/engine';
import { LRUCache } from 'lru-cache';
import { Profiler } from '@yucca/engine/profile';
import { EffectCounter } from '@yucca/engine/rules';
import { workerData } from 'node:worker_threads';
import { openDb } from '../db/open';
import { eachRecord } from '../scan/each-record';
import { exportRecords, type ExportOrder } from '../scan/export';
import { copyEverything, type BackupOrder } from '../backups/copy-everything';
import { problemsOf } from '../backups/problems-of';
import type { FeedTarget } from '../feeds/apply-changes';
import { Comparison } from '../feeds/compare';
import { localComparison, localDrift } from '../feeds/drift';
import { FormatError } from '@/formats/format-error';
import { asAnswer } from '@/inspect/as-answer';
import { inspectFile } from '@/inspect/inspect-file';
import { asJson, MOST_BYTES } from '@/formats/whole-formats';
import { gunzipSync } from 'node:zlib';
import { packCollection, type PackedCollection, type PackJob } from '../handover/offline/pack-collection';
import type { Files } from '../handover/targets/target';
import { formatted } from '../handover/written/format';
import { zipPieces } from '../handover/zip-pieces';
import { exportSearches, type SearchesPart } from '../insights/export-searches';
import { alikeByClicks, nextOf, openedOf } from '../insights/lists';
import type { Failing } from '../insights/proposals';
import { readInsights, type InsightInterval, type InsightScope } from '../insights/read-insights';
import { readList, type ListLine, type ListOrder } from '../insights/read-list';
import { readJudgements } from '../insights/visitor-judgements';
import { understandRecords } from '../scan/understand';
import { serve, StateLost, tell } from './rpc';
import type { ThreadData } from './spawn';

/** Records between two pauses: some milliseconds. */
const PAUSE_EVERY = 500;

const { dataDir } = workerData as ThreadData;
const db = openDb(dataDir, { readonly: true });
/** Comparisons whose source is coming; what nobody goes on with is forgotten. */
const comparisons = new LRUCache<string, Comparison>({ max: 4, ttl: 600_000, updateAgeOnGet: true });
const running = new Map<string, { pieces: Generator<Piece>; close: () => void; askedAt: number }>();

/** What is sent as it is made: an export, an archive. */
type Piece = string | Uint8Array;

/**
 * An export nobody has asked for a piece of for so long is over: its snapshot keeps the write-ahead log from shrinking.
 */
const FORGOTTEN_MS = 5 * 60_000;

function closeForgotten(): void {
  for (const [id, { askedAt }] of running) if (performance.now() - askedAt > FORGOTTEN_MS) methods.piecesEnd(id);
}

/** Goes through records on a connection of its own, with pauses in which others are answered. */
async function eachOnItsOwn(
  collectionId: number,
  filter: string | null,
  visit: (row: ReturnType<typeof eachRecord> extends Generator<infer R> ? R : never) => void,
): Promise<void> {
  const own = openDb(dataDir, { readonly: true });
  try {
    let seen = 0;
    for (const row of eachRecord(own, collectionId, filter)) {
      visit(row);
      if (++seen % PAUSE_EVERY === 0) await new Promise((resolve) => setImmediate(resolve));
    }
  } finally {
    own.$client.close();
  }
}

/** What this thread says unasked: the share of a backup that is copied, 0 to 1. */
export interface ScanEvent {
  backup: string;
  share: number;
}

/** What was packed with gzip. Throws a FormatError. */
function unpackedWhole(packed: Uint8Array): Uint8Array {
  try {
    return gunzipSync(packed, { maxOutputLength: MOST_BYTES + 1 });
  } catch (error) {
    throw new FormatError(
      (error as NodeJS.ErrnoException).code === 'ERR_BUFFER_TOO_LARGE'
        ? `Files of this format are read as a whole, up to ${MOST_BYTES / 1024 / 1024} MB; unpacked, this one is larger.`
        : 'The input says it is gzip and cannot be unpacked.',
    );
  }
}

const methods = {
  async profile(
    collectionId: number,
    keyField: string,
    filter: string | null,
    rules: readonly FieldRule[],
  ): Promise<Profile> {
    const start = performance.now();
    const profiler = new Profiler(keyField, rules);
    await eachOnItsOwn(collectionId, filter, ({ record }) => profiler.add(record()));
    return profiler.finish(Math.round(performance.now() - start));
  },

  /** What a rule would do to the records that are here. */
  async ruleEffect(collectionId: number, rule: FieldRule): Promise<RuleEffect> {
    const counter = new EffectCounter(rule);
    await eachOnItsOwn(collectionId, null, ({ key, record }) => counter.add(key, record()));
    return counter.finish();
  },

  /** A file that is read as a whole, as JSON; see `asJson`. */
  async asJson(packed: Uint8Array, mediaType: string, gzip: boolean, charset: string | null): Promise<Uint8Array> {
    return (await asJson(gzip ? unpackedWhole(packed) : packed, mediaType, charset)).json;
  },

  /** What was understood of a file, or of its beginning; a sentence when it cannot be read. */
  async inspect(bytes: Uint8Array, name: string, charset: string | null): Promise<InspectionAnswer | string> {
    const file = new File([bytes as Uint8Array<ArrayBuffer>], name === '' ? 'file' : name);
    const inspection = await inspectFile(file, { charset });
    return inspection.ok ? asAnswer(inspection) : inspection.reason;
  },

  /** A collection as files for a place without a server. */
  async packCollection(job: PackJob): Promise<PackedCollection> {
    const own = openDb(dataDir, { readonly: true });
    try {
      return await packCollection(own, dataDir, job);
    } finally {
      own.$client.close();
    }
  },

  /** Written files, laid out as their owner would have them. */
  layOut(files: Files): Promise<Files> {
    return formatted(files);
  },

  /** Begins the same as a ZIP archive, in a folder of their own. */
  async zipBegin(id: string, folder: string, files: Files): Promise<void> {
    closeForgotten();
    const pieces = zipPieces(folder, await formatted(files));
    running.set(id, { pieces, close: () => {}, askedAt: performance.now() });
  },

  /** What visitors did, in sums. */
  insights(scope: InsightScope, interval: InsightInterval): Omit<Insights, 'published'> {
    return readInsights(db, scope, interval);
  },

  /** A page of a list of what visitors asked for. */
  insightList(scope: InsightScope, order: ListOrder): Page<ListLine> {
    return readList(db, scope, order);
  },

  /** Judgements that visitors' clicks make. */
  visitorJudgements(scope: InsightScope): VisitorJudgements {
    return readJudgements(db, scope);
  },

  /** Begins to compare a collection with its source, whose lines come in parts. */
  compareBegin(id: string, target: FeedTarget): void {
    comparisons.set(id, new Comparison(db, target));
  },

  compareAdd(id: string, lines: string[]): void {
    const comparison = comparisons.get(id);
    if (!comparison) throw new StateLost('the comparison was begun by another');
    comparison.add(lines);
  },

  compareEnd(id: string): FeedComparison {
    const comparison = comparisons.get(id);
    if (!comparison) throw new StateLost('the comparison was begun by another');
    comparisons.delete(id);
    return comparison.end();
  },

  /** How a collection differs from what its feed wrote. */
  localComparison(target: FeedTarget): FeedComparison {
    return localComparison(db, target);
  },

  /** The same in numbers. */
  localDrift(target: FeedTarget): FeedDrift {
    return localDrift(db, target);
  },

  /** Some of the single searches that are kept. */
  exportSearches(scope: Pick<InsightScope, 'collectionId' | 'range'>, after: number, size: number): SearchesPart {
    return exportSearches(db, scope, after, size);
  },

  /** What visitors did after they had asked for a query: asked for something else, opened a record. */
  insightAfter(scope: InsightScope, query: string): Omit<Failing, 'query' | 'answer'> {
    const words = foldWords(query);
    const next = nextOf(db, scope, words);
    const openedNext = Object.fromEntries(next.map(({ text }) => [text, openedOf(db, scope, foldWords(text))]));
    return { next, opened: openedOf(db, scope, words), openedNext, alike: alikeByClicks(db, scope, words) };
  },

  /** Guesses a card and facets. */
  understand(collectionId: number, keyField: string): { card: Card; facets: string[] } {
    return understandRecords(db, collectionId, keyField);
  },

  /** Reads the whole database; returns what is wrong with it, in SQLite's words. */
  checkDatabase(): string[] {
    const own = openDb(dataDir, { readonly: true });
    try {
      return problemsOf(own);
    } finally {
      own.$client.close();
    }
  },

  /** Copies everything into a folder; tells the copied share while it goes on. */
  backup(id: string, order: BackupOrder): Promise<BackupFacts> {
    return copyEverything(order, (share) => tell({ backup: id, share } satisfies ScanEvent));
  },

  /** Begins an export on a connection of its own: it stays open between pieces. */
  exportBegin(id: string, order: ExportOrder): void {
    closeForgotten();
    const own = openDb(dataDir, { readonly: true });
    running.set(id, {
      pieces: exportRecords(own, order),
      close: () => own.$client.close(),
      askedAt: performance.now(),
    });
  },

  /** The next piece of an export or an archive; null when there is no more. */
  nextPiece(id: string): Piece | null {
    const one = running.get(id);
    // Not the end: what was cut off must not look whole.
    if (!one) throw new StateLost('what is sent in pieces was begun by another');
    one.askedAt = performance.now();
    const next = one.pieces.next();
    if (!next.done) return next.value;
    methods.piecesEnd(id);
    return null;
  },

  piecesEnd(id: string): void {
    const one = running.get(id);
    if (!one) return;
    running.delete(id);
    one.pieces.return(undefined);
    one.close();
  },
};

export type ScanMethods = typeof methods;

serve(methods);
