import { statSync } from 'node:fs';
import path from 'node:path';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry, type OpenMetricsContentType } from 'prom-client';
import type { Runtime } from '../runtime';

const OPEN_METRICS: OpenMetricsContentType = 'application/openmetrics-text; version=1.0.0; charset=utf-8';
/** Seconds: from what a search takes to what somebody gives up over. */
const BUCKETS = [0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 10];

/** Figures of the server, as OpenMetrics tells them. */
export class Metrics {
  readonly #registry = new Registry<OpenMetricsContentType>();
  readonly #requests: Counter<'route' | 'method' | 'status'>;
  readonly #durations: Histogram<'route'>;

  constructor(yucca: () => Runtime) {
    this.#registry.setContentType(OPEN_METRICS);
    const registers = [this.#registry];
    collectDefaultMetrics({ register: this.#registry as unknown as Registry });
    this.#requests = new Counter({
      name: 'yucca_requests',
      help: 'Requests that were answered, by route, method and status',
      labelNames: ['route', 'method', 'status'],
      registers,
    });
    this.#durations = new Histogram({
      name: 'yucca_request_duration_seconds',
      help: 'From the headers of a request to the end of its answer',
      labelNames: ['route'],
      buckets: BUCKETS,
      registers,
    });
    const gauge = (name: string, help: string, read: (yucca: Runtime) => number): void => {
      new Gauge({
        name,
        help,
        registers,
        collect() {
          this.set(read(yucca()));
        },
      });
    };
    const threads = (
      name: string,
      help: string,
      read: (thread: ReturnType<Runtime['threads']>[number]) => number,
    ): void => {
      new Gauge({
        name,
        help,
        labelNames: ['thread'],
        registers,
        collect() {
          const sums = new Map<string, number>();
          for (const thread of yucca().threads()) sums.set(thread.name, (sums.get(thread.name) ?? 0) + read(thread));
          for (const [thread, value] of sums) this.set({ thread }, value);
        },
      });
    };
    gauge('yucca_searches_waiting', 'Questions that wait for a searcher thread', ({ searchers }) => searchers.waiting);
    threads('yucca_threads_alive', 'Threads that are there', ({ alive }) => (alive ? 1 : 0));
    threads('yucca_thread_calls', 'Calls that threads are busy with', ({ busy }) => busy);
    threads(
      'yucca_threads_replaced',
      'Threads that were lost and replaced since the start',
      ({ replaced }) => replaced,
    );
    gauge('yucca_collections', 'Collections', ({ collections }) => collections.ids().length);
    gauge('yucca_index_bytes', 'Size of all indexes in memory', ({ collections, indexManager }) =>
      collections.ids().reduce((sum, { id }) => sum + indexManager.facts(id).bytes, 0),
    );
    gauge('yucca_tasks_running', 'Tasks that run', ({ tasks }) => tasks.running);
    gauge('yucca_wal_bytes', 'Size of the write-ahead log', ({ config }) =>
      sizeOf(path.join(config.dataDir, 'yucca.sqlite-wal')),
    );
    gauge('yucca_database_bytes', 'Size of the database', ({ config }) =>
      sizeOf(path.join(config.dataDir, 'yucca.sqlite')),
    );
    gauge('yucca_storage_refusing', '1 while the disk refuses what is written', ({ storage }) =>
      storage.state.state === 'ok' ? 0 : 1,
    );
  }

  /** Counts an answer. `route`: the pattern of its address, of which there are few. */
  answered(route: string, method: string, status: number, seconds: number): void {
    this.#requests.inc({ route, method, status: String(status) });
    this.#durations.observe({ route }, seconds);
  }

  async text(): Promise<{ text: string; contentType: string }> {
    return { text: await this.#registry.metrics(), contentType: OPEN_METRICS };
  }
}

function sizeOf(file: string): number {
  return statSync(file, { throwIfNoEntry: false })?.size ?? 0;
}
