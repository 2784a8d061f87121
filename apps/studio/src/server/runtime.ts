import { completeTuning, type InspectionAnswer } from '@yucca/contract';
import { existsSync, mkdirSync } from 'node:fs';
import path from 'node:path';
import { pino, type Logger } from 'pino';
import { Collections } from './collections/collections';
import { Audit } from './audit/audit';
import { Backups } from './backups/backups';
import { Clock } from './clock';
import { readConfig, type Config } from './config';
import { Flushed, logFileIn } from './db/flushed';
import { migrateDb, openDb, type Db } from './db/open';
import { AnsweredSearches } from './insights/answered-searches';
import { hashedId } from './insights/hashed-id';
import { Feeds } from './feeds/feeds';
import { usedFields } from './feeds/used-fields';
import { InsightsService } from './insights/insights';
import { SearchLog } from './insights/search-log';
import { IndexManager } from './index/index-manager';
import { VisitorTrials } from './visitor-trials/visitor-trials';
import { VisitorEvents } from './visitor-events/visitor-events';
import { FieldRules } from './field-rules/field-rules';
import { Handovers } from './handover/handovers';
import { Interfaces } from './interfaces/interfaces';
import { PreviewTokens } from './interfaces/preview-tokens';
import { Judgements } from './judgements/judgements';
import { KeySealer } from './keys/key-sealer';
import { Keys } from './keys/keys';
import { Rates } from './keys/rates';
import { AnsweredQueries } from './past-queries/answered-queries';
import { PastQueries } from './past-queries/past-queries';
import { Checks } from './operations/checks';
import { Metrics } from './operations/metrics';
import { SmallerPictures } from './pictures/smaller-pictures';
import { Profiles } from './profiles/profiles';
import { collectionIds } from './records/clear';
import { Records } from './records/records';
import { SearchService } from './search/search';
import type { Searchers } from './search/searchers';
import { LoadFiles } from './load-files/load-files';
import { lastClock } from './settings/last-clock';
import { SettingsService } from './settings/settings';
import { Sessions } from './sessions/sessions';
import { markRunning, markStopped } from './storage/clean-stop';
import { FolderLock } from './storage/folder-lock';
import { freeze, frozenCopyOf } from './storage/frozen-folder';
import { requireDatabase } from './storage/missing-database';
import { Integrity } from './storage/integrity';
import { storageCodeOf } from './storage/storage-failure';
import { StorageHealth } from './storage/storage-health';
import { Tasks } from './tasks/tasks';
import { Tunings } from './tuning/tuning';
import { Threads } from './workers/threads';

/** Everything the routes and screens work with. */
export interface Runtime {
  config: Config;
  log: Logger;
  db: Db;
  /** Settles when all that was written until now is on the disk. Nothing is acknowledged before. */
  flushed: () => Promise<void>;
  smallerPictures: SmallerPictures;
  keys: Keys;
  rates: Rates;
  sessions: Sessions;
  collections: Collections;
  records: Records;
  fieldRules: FieldRules;
  profiles: Profiles;
  tunings: Tunings;
  settings: SettingsService;
  interfaces: Interfaces;
  handovers: Handovers;
  judgements: Judgements;
  visitorEvents: VisitorEvents;
  insights: InsightsService;
  visitorTrials: VisitorTrials;
  feeds: Feeds;
  loadFiles: LoadFiles;
  tasks: Tasks;
  search: SearchService;
  searchers: Searchers;
  indexManager: IndexManager;
  audit: Audit;
  storage: StorageHealth;
  integrity: Integrity;
  backups: Backups;
  checks: Checks;
  metrics: Metrics;
  /** All threads, for whoever looks after them. */
  threads: () => Threads['all'];
  /** Set by the front server: what it writes into a header when a request came straight from this machine. */
  front: { directWay: string } | null;
  startedAt: number;
  /** What was understood of a file, or of its beginning; a sentence when it cannot be read. */
  inspect: (bytes: Uint8Array, name: string, charset: string | null) => Promise<InspectionAnswer | string>;
  /** Deletes a collection and clears it away. */
  removeCollection: (name: string) => void;
  /** Settles when every index is open. */
  opened: Promise<void>;
  close: () => Promise<void>;
}

/**
 * Takes the data folder for this process; one that cannot be written, by a copy that is only read from (`refusal` says
 * why). Throws a FolderTaken when another process has it.
 */
function holdFolder(dataDir: string): { folder: string; lock: FolderLock; refusal: Error | null } {
  try {
    mkdirSync(dataDir, { recursive: true });
    requireDatabase(dataDir);
    return { folder: dataDir, lock: FolderLock.take(dataDir), refusal: null };
  } catch (error) {
    if (storageCodeOf(error) === null || !existsSync(path.join(dataDir, 'yucca.sqlite'))) throw error;
    const folder = frozenCopyOf(dataDir);
    return { folder, lock: FolderLock.take(folder), refusal: error as Error };
  }
}

/** What is noted in memory is written down this often. */
const NOTES_EVERY_MS = 1_000;
/** Trails of keystrokes go on for so long after the last one; then they are settled. */
const SETTLING_MS = 6_000;
/** And the time, when there is nothing else, this often. */
const CLOCK_EVERY_MS = 60_000;

/** Starts the database, the threads and the services over one data folder. */
export function startRuntime(config: Config, migrationsDir: string, log: Logger): Runtime {
  const { folder: dataDir, lock, refusal } = holdFolder(config.dataDir);
  const stoppedCleanly = markRunning(dataDir);
  const db = openDb(dataDir, { flushes: false, checkpoints: false });
  migrateDb(db, migrationsDir);
  const flush = new Flushed(db, logFileIn(dataDir));
  const flushed = (): Promise<void> => flush.done();
  // Threads open it after this; what this connection has to prepare, it may still write into the copy.
  if (refusal !== null) freeze(dataDir);
  const clock = new Clock(lastClock(db));
  const threads = new Threads(dataDir, log, config.builders);
  const { writer, builder, sideBySide, catchUp, recent, searchers, scan } = threads;
  const storage = new StorageHealth({
    log,
    tryWriting: () => writer.call('tryWriting', []),
    onRecovered: () => void indexManager.saveUnsaved(),
  });
  const indexManager = new IndexManager({
    db,
    dataDir,
    writer,
    builder,
    sideBySide,
    catchUp,
    recent,
    publish: (state) => searchers.publish(state),
    storage,
    flushed,
    log,
  });
  const collections = new Collections({ db, indexManager });
  const tasks = new Tasks({ db, storage });
  const tunings = new Tunings({ db, collections, indexManager, tasks });
  const answered = new AnsweredQueries();
  const pastQueries = new PastQueries({ db });
  const searchLog = new SearchLog();
  const noted = new AnsweredSearches(searchLog);
  const sealer = KeySealer.of(dataDir);
  const visitorSecret = sealer.secretFor('visitors').toString('base64url');
  const visitorTrials = new VisitorTrials({
    db,
    collections,
    indexManager,
    tunings,
    hashed: (id) => hashedId(visitorSecret, id),
  });
  const search = new SearchService({
    trials: visitorTrials,
    clock,
    collections,
    indexManager,
    searchers,
    tunings,
    answered,
    noted,
    pastQueries,
  });
  const records = new Records({ db, dataDir, collections, indexManager, tunings, tasks, search, writer, scan });
  const fieldRules = new FieldRules({ db, collections, indexManager, tasks, writer, scan });
  const sessions = new Sessions({ db, password: config.password, clock });
  const print = (text: string): void => void process.stdout.write(text);
  if (!config.loopback || config.publicUrl !== null) sessions.offerCode(print);
  const keys = new Keys({ db, adminKey: config.adminKey, sealer, clock });
  const previews = new PreviewTokens(sealer.secretFor('previews'), clock);
  const interfaces = new Interfaces({ db, collections, tunings, previews });
  const madeKey = keys.prepare();
  if (madeKey !== null)
    flushed()
      .then(() => print(`\n  Admin key, shown this once: ${madeKey}\n\n`))
      .catch((error: unknown) => storage.heard(error));
  const audit = new Audit(db);
  const integrity = new Integrity(scan);
  const backups = new Backups({ config, tasks, scan, log });
  threads.listen({
    writer: (event) => {
      if ('load' in event) records.onProgress(event.load, event.progress);
      else fieldRules.onProgress(event.repair, event.progress);
    },
    scan: ({ backup, share }) => backups.onProgress(backup, share),
    building: (progress) => indexManager.onProgress(progress),
  });
  if (refusal !== null) {
    db.$client.pragma('query_only = ON');
    storage.heard(refusal);
  }
  const opened = Promise.all(collectionIds(db, 'live').map((id) => indexManager.open(id))).then(() => {});
  void opened.catch((error: Error) => log.error({ error: error.message }, 'an index could not be opened'));
  if (refusal === null)
    void opened
      .then(() => feeds.sent.catchUp())
      .then(() => feeds.start())
      .catch((error: Error) => log.error({ error: error.message }, 'events that waited were not applied'));
  writer.send('clearDeleted', []);
  // A stop in the middle of something should not have damaged anything; now it is known that it has not.
  if (!stoppedCleanly)
    void opened
      .then(() => integrity.check())
      .then(({ state }) => log.info({ state }, 'checked the database, because the last stop was not clean'))
      .catch((error: Error) => log.error({ error: error.message }, 'the database could not be checked'));
  const feeds = new Feeds({
    db,
    tasks,
    collections,
    indexManager,
    writer,
    scan,
    sealer,
    thread: threads.feed,
    loadDir: config.loadDir,
    makeSearchable: (name) => records.makeSearchable(name),
    used: (name) => usedFields(completeTuning(tunings.get(name, 'live')), collections.card(name)),
    log,
  });
  const visitorEvents = new VisitorEvents({
    trials: visitorTrials,
    db,
    answered,
    noted,
    pastQueries,
    isWorthOffering: (query) => search.isWorthOffering(query),
    log,
  });
  const ages = { rawDays: config.eventDays, sumDays: config.insightDays };
  let countedEvent = 0;
  // What was open when the last process ended settles now.
  let settlingUntil = performance.now() + SETTLING_MS;
  let clockWrittenAt = -Infinity;
  const writeNotes = async (): Promise<void> => {
    const order = {
      uses: keys.takeUses(),
      notes: audit.takeNotes(),
      clock: clock.steady(),
      eventDays: config.eventDays,
      // The events are those of searches that are here or were before.
      insights: { searches: searchLog.take(), lastEvent: visitorEvents.last, ages, secret: visitorSecret },
    };
    const { searches, lastEvent } = order.insights;
    if (searches.searches.length > 0 || lastEvent > countedEvent) settlingUntil = performance.now() + SETTLING_MS;
    // Every write is flushed to the disk: a server that nobody asks writes once a minute, for the clock.
    const settling = performance.now() < settlingUntil;
    const idle = order.uses.length === 0 && order.notes.length === 0 && !settling;
    if (idle && performance.now() - clockWrittenAt < CLOCK_EVERY_MS) return;
    clockWrittenAt = performance.now();
    try {
      await writer.call('writeNotes', [order]);
      countedEvent = lastEvent;
    } catch (error) {
      audit.giveBack(order.notes);
      searchLog.giveBack(searches);
      if (!storage.heard(error)) log.warn({ error: (error as Error).message }, 'notes were not written');
    }
  };
  const notes = setInterval(() => void writeNotes(), NOTES_EVERY_MS).unref();
  const yucca: Runtime = {
    config,
    log,
    db,
    flushed,
    keys,
    rates: new Rates(),
    sessions,
    collections,
    records,
    fieldRules,
    profiles: new Profiles({ db, collections, search, scan }),
    tunings,
    settings: new SettingsService({ collections, tunings, fieldRules }),
    visitorEvents,
    visitorTrials,
    feeds,
    insights: new InsightsService({
      collections,
      tunings,
      search,
      writer,
      scan,
      written: writeNotes,
      secret: visitorSecret,
      least: config.insightLeast,
    }),
    judgements: new Judgements({ db, collections, search }),
    interfaces,
    handovers: new Handovers({
      db,
      audit,
      search,
      collections,
      interfaces,
      keys,
      tunings,
      scan,
      kitFile: config.kitFile,
      offlineDir: config.offlineDir,
    }),
    smallerPictures: new SmallerPictures(log),
    loadFiles: new LoadFiles(config.loadDir),
    tasks,
    opened,
    search,
    searchers,
    indexManager,
    audit,
    storage,
    integrity,
    backups,
    checks: new Checks({ tasks, integrity }),
    metrics: new Metrics(() => yucca),
    threads: () => threads.all,
    front: null,
    startedAt: Date.now(),
    inspect: (bytes, name, charset) => scan().call('inspect', [bytes, name, charset]),
    removeCollection: (name) => {
      const { id } = collections.row(name);
      records.cancelLoads(name);
      feeds.endAll(name);
      collections.remove(name);
      searchers.forget(id);
      writer.send('clearDeleted', []);
    },
    close: async () => {
      threads.closing();
      clearInterval(notes);
      await feeds.close();
      storage.close();
      backups.close();
      await writeNotes();
      await threads.closeBuilders();
      await tunings.settled();
      await indexManager.removed();
      await threads.close();
      await flush.close();
      db.$client.close();
      markStopped(dataDir);
      lock.release();
    },
  };
  return yucca;
}

const holder = globalThis as { yuccaRuntime?: Runtime };

/**
 * The one runtime of this process. Modules are instantiated more than once by the framework, so it hangs on globalThis.
 */
export function runtime(): Runtime {
  if (!holder.yuccaRuntime) {
    const config = readConfig();
    const log = pino({ level: process.env.YUCCA_LOG ?? 'info', base: null });
    const migrations = process.env.YUCCA_MIGRATIONS ?? path.join(process.cwd(), 'drizzle');
    holder.yuccaRuntime = startRuntime(config, migrations, log);
  }
  return holder.yuccaRuntime;
}
