import path from 'node:path';
import { availableParallelism } from 'node:os';
import { pino, type Logger } from 'pino';
import { Collections } from './collections/collections';
import { readConfig, type Config } from './config';
import { migrateDb, openDb, type Db } from './db/open';
import { Catalogue } from './index/catalogue';
import { VisitorEvents } from './visitor-events/visitor-events';
import { FieldRules } from './field-rules/field-rules';
import { Interfaces } from './interfaces/interfaces';
import { Judgements } from './judgements/judgements';
import { Keys } from './keys/keys';
import { Rates } from './keys/rates';
import { AnsweredQueries } from './past-queries/answered-queries';
import { PastQueries } from './past-queries/past-queries';
import { Profiles } from './profiles/profiles';
import { collectionIds } from './records/clear';
import { Records } from './records/records';
import { SearchService } from './search/search';
import { Searchers } from './search/searchers';
import { LoadFiles } from './load-files/load-files';
import { SettingsService } from './settings/settings';
import { Sessions } from './sessions/sessions';
import { Tasks } from './tasks/tasks';
import { Tunings } from './tuning/tuning';
import type { BuilderMethods } from './workers/builder-worker';
import type { KeeperEvent, KeeperMethods } from './workers/keeper-worker';
import type { ReaderMethods } from './workers/reader-worker';
import { RemoteThread, ThreadOnDemand } from './workers/rpc';
import type { SearcherMethods } from './workers/search-worker';
import { spawnBuilder, spawnKeeper, spawnReader, spawnSearcher } from './workers/spawn';

/** Everything the routes and screens work with. */
export interface Runtime {
  config: Config;
  log: Logger;
  db: Db;
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
  judgements: Judgements;
  visitorEvents: VisitorEvents;
  loadFiles: LoadFiles;
  tasks: Tasks;
  search: SearchService;
  startedAt: number;
  /** Deletes a collection and clears it away. */
  removeCollection: (name: string) => void;
  /** Settles when every index is open. */
  opened: Promise<void>;
  close: () => Promise<void>;
}

/** Starts the database, the threads and the services over one data folder. */
export function startRuntime(config: Config, migrationsDir: string, log: Logger): Runtime {
  const db = openDb(config.dataDir);
  migrateDb(db, migrationsDir);
  const data = { dataDir: config.dataDir };
  // A thread that dies takes its state with it; a clean restart finds everything in the database.
  const died = (error: Error): void => {
    if (closing) return;
    log.fatal({ error: error.message }, 'a worker thread died');
    process.exit(1);
  };
  let closing = false;
  const keeper = new RemoteThread<KeeperMethods>(spawnKeeper(data), (event) => heard(event as KeeperEvent), died);
  const heard = (event: KeeperEvent): void => {
    if ('load' in event) records.onProgress(event.load, event.progress);
    else fieldRules.onProgress(event.repair, event.progress);
  };
  // Started when somebody first looks at the data: searches do not need it.
  let readerThread: RemoteThread<ReaderMethods> | null = null;
  const reader = (): RemoteThread<ReaderMethods> =>
    (readerThread ??= new RemoteThread<ReaderMethods>(spawnReader(data), undefined, died));
  const builder = new ThreadOnDemand<BuilderMethods>(() => new RemoteThread(spawnBuilder(data), undefined, died));
  const count = Math.max(2, availableParallelism() - 1);
  const threads = Array.from(
    { length: count },
    () => new RemoteThread<SearcherMethods>(spawnSearcher(data), undefined, died),
  );
  const searchers = new Searchers(threads);
  const catalogue = new Catalogue({
    db,
    dataDir: config.dataDir,
    keeper,
    builder,
    publish: (state) => searchers.publish(state),
    log,
  });
  const collections = new Collections(db, catalogue);
  const tunings = new Tunings(db, collections, catalogue);
  const tasks = new Tasks(db);
  const answered = new AnsweredQueries();
  const pastQueries = new PastQueries(db);
  const search = new SearchService({ collections, catalogue, searchers, tunings, answered, pastQueries });
  const { dataDir } = config;
  const records = new Records({ db, dataDir, collections, catalogue, tunings, tasks, search, keeper, reader });
  const fieldRules = new FieldRules({ db, collections, catalogue, tasks, keeper, reader });
  const sessions = new Sessions(db, config.password);
  if (!config.loopback && !sessions.hasPassword)
    process.stdout.write(
      `\n  The studio has no password yet. Set it at /sign-in with the code ${sessions.makeCode()}\n\n`,
    );
  const keys = new Keys(db, config.adminKey);
  const madeKey = keys.prepare();
  if (madeKey !== null) process.stdout.write(`\n  Admin key, shown this once: ${madeKey}\n\n`);
  const opened = Promise.all(collectionIds(db, 'live').map((id) => catalogue.open(id))).then(() => {});
  void opened.catch((error: Error) => log.error({ error: error.message }, 'an index could not be opened'));
  keeper.send('clearDeleted', []);
  return {
    config,
    log,
    db,
    keys,
    rates: new Rates(),
    sessions,
    collections,
    records,
    fieldRules,
    profiles: new Profiles(db, collections, search, reader),
    tunings,
    settings: new SettingsService(collections, tunings, fieldRules),
    visitorEvents: new VisitorEvents({
      db,
      answered,
      pastQueries,
      isWorthOffering: (query) => search.isWorthOffering(query),
      log,
    }),
    judgements: new Judgements(db, collections, search),
    interfaces: new Interfaces(db, collections, tunings),
    loadFiles: new LoadFiles(config.loadDir),
    tasks,
    opened,
    search,
    startedAt: Date.now(),
    removeCollection: (name) => {
      const { id } = collections.row(name);
      collections.remove(name);
      searchers.forget(id);
      keeper.send('clearDeleted', []);
    },
    close: async () => {
      closing = true;
      await Promise.all([keeper, builder, readerThread, ...threads].map((thread) => thread?.terminate()));
      db.$client.close();
    },
  };
}

const holder = globalThis as { yuccaRuntime?: Runtime };

/** The one runtime of this process. Modules are instantiated more than once by the framework, so it hangs on globalThis. */
export function runtime(): Runtime {
  if (!holder.yuccaRuntime) {
    const config = readConfig();
    const log = pino({ level: process.env.YUCCA_LOG ?? 'info', base: null });
    const migrations = process.env.YUCCA_MIGRATIONS ?? path.join(process.cwd(), 'drizzle');
    holder.yuccaRuntime = startRuntime(config, migrations, log);
  }
  return holder.yuccaRuntime;
}
