import type { InterfacePage, SearchRequest, TuningDocument } from '@yucca/contract';
import type { PackedCollection } from '../offline/pack-collection';

/** What the files of a target are made from. */
export interface TakenAway {
  page: InterfacePage;
  /** Where Yucca is reached, without a slash at the end. */
  server: string;
  /** The secret of a search key, or what stands for it. */
  key: string;
  /** Sites the key is for; empty = any. */
  origins: readonly string[];
  /** A BCP 47 tag. */
  language: string;
  /** The field that names a record; null when names are made. */
  keyField: string | null;
  /** The packed kit, for projects that are built. */
  kit: () => Uint8Array;
  /** The element and the engine for folders without a server. */
  offlineScripts: () => Files;
  /** The file of the page’s logo; null when it has none. */
  logo: () => Uint8Array | null;
  /** The collections of the page as files. */
  pack: () => Promise<Record<string, Packed>>;
}

/** A collection as files, and what it is searched by. */
export interface Packed {
  tuning: TuningDocument;
  packed: PackedCollection;
  /** What the page asks first; null = it is not the page’s own collection. */
  request: SearchRequest | null;
}

/** Files by their paths. */
export type Files = Record<string, string | Uint8Array>;

/** What a page can be taken away as: its files. */
export type Target = (what: TakenAway) => Files | Promise<Files>;
