import type { Readiness } from '@yucca/contract';
import type { ScanMethods } from '../workers/scan-worker';
import type { RemoteThread } from '../workers/rpc';

/** What is known of the database being whole. Checking reads all of it, so it is done in a thread, and on demand. */
export class Integrity {
  readonly #scan: () => RemoteThread<ScanMethods>;
  #state: Readiness['integrity'] = { state: 'unchecked', checkedAt: null, problems: [] };
  #running: Promise<Readiness['integrity']> | null = null;

  constructor(scan: () => RemoteThread<ScanMethods>) {
    this.#scan = scan;
  }

  get state(): Readiness['integrity'] {
    return this.#state;
  }

  /** Checks now; those who ask meanwhile share the work. */
  check(): Promise<Readiness['integrity']> {
    this.#running ??= this.#check().finally(() => (this.#running = null));
    return this.#running;
  }

  async #check(): Promise<Readiness['integrity']> {
    this.#state = { ...this.#state, state: 'checking' };
    try {
      const problems = await this.#scan().call('checkDatabase', []);
      const checkedAt = new Date().toISOString();
      this.#state = { state: problems.length === 0 ? 'ok' : 'damaged', checkedAt, problems };
    } catch (error) {
      this.#state = { state: 'unchecked', checkedAt: null, problems: [(error as Error).message] };
      throw error;
    }
    return this.#state;
  }
}
