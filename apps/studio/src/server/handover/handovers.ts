import { readFileSync } from 'node:fs';
import path from 'node:path';
import {
  completeTuning,
  LIMITS,
  type Handover,
  type HandoverFiles,
  type HandoverTarget,
  type InterfacePage,
  type Key,
  type SearchRequest,
} from '@yucca/contract';
import { EMPTY_QUERY, fieldsOf, requestFor, standingRequest } from '@yucca/kit';
import { and, desc, eq } from 'drizzle-orm';
import type { Audit } from '../audit/audit';
import type { Collections } from '../collections/collections';
import type { Db } from '../db/open';
import { audit } from '../db/schema';
import { Failure } from '../failure';
import type { Interfaces } from '../interfaces/interfaces';
import type { Keys } from '../keys/keys';
import type { Tunings } from '../tuning/tuning';
import type { RemoteThread } from '../workers/rpc';
import type { ScanMethods } from '../workers/scan-worker';
import type { SearchService } from '../search/search';
import { inPieces } from '../scan/in-pieces';
import { guideOf } from './guide';
import { header } from './targets/header';
import { html } from './targets/html';
import { next } from './targets/next';
import { plain } from './targets/plain';
import { react } from './targets/react';
import { staticFolder } from './targets/static';
import type { Files, Packed, TakenAway, Target } from './targets/target';

const TARGETS: Record<HandoverTarget, Target> = { html, header, react, next, plain, static: staticFolder };

const OFFLINE_SCRIPTS = ['yucca-search.js', 'yucca-search-more.js', 'yucca-engine.js'];

/** What stands in the files for the secret of a key that nobody knows any more. */
export const PLACEHOLDER = 'YOUR-SEARCH-KEY';

export interface Package {
  /** A ZIP archive, made as it is taken. */
  pieces: AsyncGenerator<string | Uint8Array>;
  fileName: string;
  /** The key that was made for it; null when it has a placeholder. */
  madeKey: { id: string; label: string } | null;
  /** The version of the page. */
  version: number;
}

interface Parts {
  db: Db;
  audit: Pick<Audit, 'flush'>;
  collections: Collections;
  interfaces: Interfaces;
  keys: Keys;
  search: Pick<SearchService, 'search'>;
  tunings: Tunings;
  /** The kit as a package of npm. */
  kitFile: string;
  /** Where the scripts for folders without a server are. */
  offlineDir: string;
  scan: () => RemoteThread<ScanMethods>;
}

/** Pages as files to take away. */
export class Handovers {
  readonly #parts: Parts;

  constructor(parts: Parts) {
    this.#parts = parts;
  }

  /**
   * Packs the live page for a target; `server` is where Yucca is reached. Rejects with a Failure when there is no such
   * page or key.
   */
  async make(slug: string, { target, origins = [], key = 'new' }: Handover, server: string): Promise<Package> {
    const { interfaces, keys, scan } = this.#parts;
    const page = interfaces.page(slug);
    const known = key === 'new' ? null : keys.get(key);
    // What needs no server needs no key.
    const made = known === null && target !== 'static' ? this.#makeKey(page, origins) : null;
    const secret = made?.secret ?? PLACEHOLDER;
    const files = await this.#files(target, page, { server, origins, key: secret }, known);
    const thread = scan();
    return {
      pieces: inPieces(thread, (id) => thread.call('zipBegin', [id, slug, files])),
      fileName: `${slug}-${target}.zip`,
      madeKey: made?.key ?? null,
      version: interfaces.liveVersion(slug),
    };
  }

  /** The files of a target as they would be taken away. Rejects with a Failure for one that is made first. */
  async see(
    slug: string,
    target: HandoverTarget,
    server: string,
    version: 'live' | 'draft' | number,
  ): Promise<HandoverFiles> {
    if (target === 'static') throw new Failure('invalid', 'A folder without a server has no files before it is made.');
    const page = this.#parts.interfaces.page(slug, version);
    const written = await this.#files(target, page, { server, origins: [], key: PLACEHOLDER }, null);
    const files = await this.#parts.scan().call('layOut', [written]);
    return {
      files: Object.entries(files)
        .map(([path, content]) =>
          typeof content === 'string'
            ? { path, bytes: Buffer.byteLength(content), text: content }
            : { path, bytes: content.length, text: null },
        )
        .sort((a, b) => (a.path < b.path ? -1 : 1)),
      taken: this.#lastTaken(slug, target),
    };
  }

  /** How the page's collection is searched, as Markdown for a colleague or an assistant. */
  guide(slug: string, server: string): Promise<string> {
    const { interfaces, tunings, search } = this.#parts;
    const page = interfaces.page(slug);
    const ask = (request: SearchRequest) => search.search(page.collection, request);
    return guideOf({ page, server, tuning: tunings.get(page.collection, 'live'), ask });
  }

  /** As the audit trail has it. */
  #lastTaken(slug: string, target: HandoverTarget): HandoverFiles['taken'] {
    // What was noted a moment ago is written later.
    this.#parts.audit.flush();
    const rows = this.#parts.db
      .select({ at: audit.at, detail: audit.detail })
      .from(audit)
      .where(and(eq(audit.method, 'POST'), eq(audit.path, `/interfaces/${slug}/handover`)))
      .orderBy(desc(audit.id))
      .all();
    for (const { at, detail } of rows) {
      const said = JSON.parse(detail ?? '{}') as { target?: string; version?: number };
      if (said.target === target && said.version !== undefined) return { version: said.version, at };
    }
    return null;
  }

  async #files(
    target: HandoverTarget,
    page: InterfacePage,
    { server, origins, key }: Pick<TakenAway, 'server' | 'origins' | 'key'>,
    known: Key | null,
  ): Promise<Files> {
    const { collections, interfaces, tunings, kitFile, offlineDir } = this.#parts;
    const { language } = completeTuning(tunings.get(page.collection, 'live'));
    const what: TakenAway = {
      ...{ page, server, origins, key },
      // What a page says of its language is nearer than what its records are in.
      language: (page.locale ?? 'en') !== 'en' || language === 'und' ? (page.locale ?? 'en') : language,
      keyField: collections.get(page.collection).key,
      kit: () => builtFile(kitFile),
      offlineScripts: () =>
        Object.fromEntries(OFFLINE_SCRIPTS.map((name) => [name, builtFile(path.join(offlineDir, name))])),
      pack: () => this.#pack(page, known),
      logo: () => (page.header?.logo ? (interfaces.logo(page.slug, page.header.logo)?.bytes ?? null) : null),
    };
    return TARGETS[target](what);
  }

  /** The collections of a page, one after the other: each is built in a thread, and they share what may be in all. */
  async #pack(page: InterfacePage, known: Key | null): Promise<Record<string, Packed>> {
    const { collections, tunings, scan } = this.#parts;
    const packs: Record<string, Packed> = {};
    let most: number = LIMITS.offlineRecords;
    for (const name of collectionsOf(page)) {
      if (known?.collections && !known.collections.includes(name))
        throw new Failure('invalid', `The key “${known.label}” may not see “${name}”, which is on the page.`);
      const tuning = tunings.get(name, 'live');
      const isOwn = name === page.collection;
      const cards = [page, ...page.autocomplete, ...(page.shelves ?? [])].filter(
        ({ collection }) => collection === name,
      );
      const table = isOwn ? (page.table ?? []).map(({ field }) => field) : [];
      const shown = [...cards.flatMap(({ card, link }) => (card ? fieldsOf(card, link) : [])), ...table];
      const chosen = (page.shelves ?? []).flatMap(({ collection, filter }) =>
        collection === name ? (filter ?? []) : [],
      );
      const conditions = [...(isOwn ? (page.badges ?? []).map(({ where }) => where) : []), ...chosen];
      const picture = cards.find(({ card }) => card?.picture)?.card?.picture ?? null;
      const request = isOwn ? requestFor(EMPTY_QUERY, standingRequest(page)) : null;
      const job = { tuning, shown, conditions, picture, most, first: request, filter: known?.filter ?? null };
      const packed = await scan().call('packCollection', [{ ...job, collectionId: collections.idOf(name) }]);
      if (packed.tooMany)
        throw new Failure(
          'invalid',
          `A folder without a server holds ${LIMITS.offlineRecords.toLocaleString('en')} records at most; with “${name}” there are more. A key with a filter makes them fewer.`,
        );
      most -= packed.records;
      packs[name] = { tuning, packed, request };
    }
    return packs;
  }

  /** A key that can search the collections of the page, from the sites it is for, and nothing else. */
  #makeKey(page: InterfacePage, origins: readonly string[]) {
    return this.#parts.keys.create({
      label: `${page.title.slice(0, 180)}, handed over`,
      rights: ['search'],
      collections: collectionsOf(page),
      ...(origins.length > 0 && { origins: [...origins] }),
    });
  }
}

/** The collections that a page searches, its own first. */
const collectionsOf = ({ collection, autocomplete, shelves = [] }: InterfacePage): string[] => [
  ...new Set([collection, ...[...autocomplete, ...shelves].flatMap((part) => part.collection ?? [])]),
];

/** A file that comes along and is made by the build. Throws a Failure when it was not. */
function builtFile(file: string): Uint8Array {
  try {
    return readFileSync(file);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    throw new Failure(
      'unavailable',
      `What comes along is not built yet (${path.basename(file)}): \`npm run build\` makes it.`,
    );
  }
}
