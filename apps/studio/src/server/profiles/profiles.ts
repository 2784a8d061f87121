import type { FieldRule, Profile } from '@yucca/contract';
import { LRUCache } from 'lru-cache';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import type { SearchService } from '../search/search';
import type { ScanMethods } from '../workers/scan-worker';
import type { RemoteThread } from '../workers/rpc';

export interface ProfilesParts {
  db: Db;
  collections: Collections;
  search: SearchService;
  scan: () => RemoteThread<ScanMethods>;
}

/** Profiles of collections: made on the scan thread when asked for, kept until a record changes. */
export class Profiles {
  readonly #db: Db;
  readonly #collections: Collections;
  readonly #search: SearchService;
  readonly #scan: () => RemoteThread<ScanMethods>;
  readonly #kept = new LRUCache<string, Promise<Profile>>({ max: 40 });

  constructor({ db, collections, search, scan }: ProfilesParts) {
    this.#db = db;
    this.#collections = collections;
    this.#search = search;
    this.#scan = scan;
  }

  /**
   * What is in the data; with a condition, in the records that fulfil it alone. Those who ask meanwhile share the work.
   */
  get(name: string, filter: string | null = null): Promise<Profile> {
    const { id, fieldRules } = this.#collections.row(name);
    const state = `${id}/${this.#state(id)}/${fieldRules}/${filter ?? ''}`;
    const kept = this.#kept.get(state);
    if (kept) return kept;
    const made = this.#make(name, filter);
    this.#kept.set(state, made);
    made.catch(() => this.#kept.delete(state));
    return made;
  }

  async #make(name: string, filter: string | null): Promise<Profile> {
    const { id, keyField, fieldRules } = this.#collections.row(name);
    if (filter !== null) await this.#search.keysPage(name, filter, 0, 0, false);
    return this.#scan().call('profile', [id, keyField, filter, JSON.parse(fieldRules) as FieldRule[]]);
  }

  /** Another with every change of a record: numbers of versions and of tombstones are never given out twice. */
  #state(collectionId: number): string {
    return this.#db.$client
      .prepare(
        `select coalesce((select max(version_id) from records where collection_id = ?), 0) || '-' ||
                coalesce((select seq from sqlite_sequence where name = 'tombstones'), 0)`,
      )
      .pluck()
      .get(collectionId) as string;
  }
}
