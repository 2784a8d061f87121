import { availableParallelism } from 'node:os';
import type { Worker } from 'node:worker_threads';
import type { Logger } from 'pino';
import { Searchers } from '../search/searchers';
import type { BuilderMethods, BuildProgress } from './builder-worker';
import type { FeedMethods } from './feed-worker';
import { RemoteThread, ThreadOnDemand, type ThreadOptions } from './rpc';
import type { ScanEvent, ScanMethods } from './scan-worker';
import type { SearcherMethods } from './search-worker';
import { spawnBuilder, spawnFeed, spawnScan, spawnSearcher, spawnWriter, type ThreadData } from './spawn';
import type { WriterEvent, WriterMethods } from './writer-worker';

/** Without a sign of life for so long a thread is given up: the one that writes may wait for a slow disk. */
const WRITER_HANG_MS = 20_000;
/** Of threads that go through all records of a collection, or put together an index of a million. */
const LONG_WORK_HANG_MS = 180_000;

/** Who hears what threads say while they work. */
export interface Listeners {
  writer: (event: WriterEvent) => void;
  scan: (event: ScanEvent) => void;
  building: (event: BuildProgress) => void;
}

/** All threads of a process over one data folder. */
export class Threads {
  readonly writer: RemoteThread<WriterMethods>;
  readonly builder: ThreadOnDemand<BuilderMethods>;
  /** For what somebody waits for and takes long, each a part of it. */
  readonly sideBySide: readonly ThreadOnDemand<BuilderMethods>[];
  /** For the few records written since, so that they never wait for a whole index. */
  readonly catchUp: ThreadOnDemand<BuilderMethods>;
  /** For what is in memory alone, of a collection that is written to again and again. */
  readonly recent: ThreadOnDemand<BuilderMethods>;
  /** Asks sources; there while one is being read. */
  readonly feed: ThreadOnDemand<FeedMethods>;
  readonly searchers: Searchers;
  readonly #dataDir: string;
  readonly #log: Logger;
  #scan: RemoteThread<ScanMethods> | null = null;
  #listeners: Listeners | null = null;
  #closing = false;

  /** `builders`: how many threads build an index side by side. */
  constructor(dataDir: string, log: Logger, builders: number) {
    this.#dataDir = dataDir;
    this.#log = log;
    this.writer = new RemoteThread<WriterMethods>(
      this.#options('writer', spawnWriter, {
        hangMs: WRITER_HANG_MS,
        onEvent: (event) => this.#listeners?.writer(event as WriterEvent),
        onReplaced: () => this.writer.send('clearDeleted', []),
      }),
    );
    this.builder = this.#builder('builder', true);
    this.sideBySide = Array.from({ length: builders }, (_, i) => this.#builder(`builder ${i + 1} of parts`, true));
    this.catchUp = this.#builder('catch-up builder');
    this.recent = this.#builder('builder of recent writes');
    this.feed = new ThreadOnDemand(this.#options('feed', spawnFeed, { hangMs: LONG_WORK_HANG_MS }), 30_000);
    this.searchers = new Searchers(
      Math.max(2, availableParallelism() - 1),
      (onReplaced) => new RemoteThread<SearcherMethods>(this.#options('searcher', spawnSearcher, { onReplaced })),
    );
  }

  /** Started when somebody first looks at the data: searches do not need it. */
  readonly scan = (): RemoteThread<ScanMethods> =>
    (this.#scan ??= new RemoteThread<ScanMethods>(
      this.#options('scan', spawnScan, {
        hangMs: LONG_WORK_HANG_MS,
        onEvent: (event) => this.#listeners?.scan(event as ScanEvent),
      }),
    ));

  /** Says who hears the threads; before, what they say is dropped. */
  listen(listeners: Listeners): void {
    this.#listeners = listeners;
  }

  /** `givesWay`: nobody waits for what it makes; somebody waits for what was written just now. */
  #builder(name: string, givesWay = false): ThreadOnDemand<BuilderMethods> {
    return new ThreadOnDemand(
      this.#options(name, (data) => spawnBuilder({ ...data, givesWay }), {
        hangMs: LONG_WORK_HANG_MS,
        onEvent: (event) => this.#listeners?.building(event as BuildProgress),
      }),
    );
  }

  #options(name: string, spawn: (data: ThreadData) => Worker, more: Partial<ThreadOptions>): ThreadOptions {
    return {
      name,
      spawn: (pulse) => spawn({ dataDir: this.#dataDir, pulse }),
      onLost: ({ message }) => {
        if (this.#closing) return;
        this.#log.error({ thread: name, error: message }, 'a thread was lost; another takes its place');
      },
      ...more,
    };
  }

  /** For whoever looks after them. */
  get all(): Pick<RemoteThread<never>, 'name' | 'alive' | 'busy' | 'replaced' | 'replace'>[] {
    const { writer, builder, sideBySide, catchUp, recent, feed, searchers } = this;
    return [
      writer,
      builder,
      ...sideBySide,
      catchUp,
      recent,
      feed,
      ...(this.#scan === null ? [] : [this.#scan]),
      ...searchers.threads,
    ];
  }

  /** From here on a thread that ends was meant to. */
  closing(): void {
    this.#closing = true;
  }

  async closeBuilders(): Promise<void> {
    await Promise.all(
      [this.builder, ...this.sideBySide, this.catchUp, this.recent, this.feed].map((one) => one.close()),
    );
  }

  async close(): Promise<void> {
    await Promise.all([this.writer, this.#scan, ...this.searchers.threads].map((one) => one?.terminate()));
  }
}
