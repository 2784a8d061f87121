import type { InterfacePage } from './interface-page-schema.ts';
import type { SearchAnswer, SearchRequest } from './search.ts';
import type { TuningDocument } from './tuning.ts';

/** A collection as files that are searched without a server. Paths are beside the manifest. */
export interface OfflineCollection {
  tuning: TuningDocument;
  records: number;
  /** Packed with gzip: the index but for the records. */
  index: string;
  /** Packed with gzip: the JSON of the records, cut between two of them, and the first document of each part. */
  parts: string[];
  firstDocs: number[];
  /** Bytes of the index and of all parts, as they are sent. */
  indexBytes: number;
  partsBytes: number;
}

/** What a folder without a server holds: pages, and the collections they search. */
export interface OfflineManifest {
  /** Of the files; what cannot be read is refused by it. */
  format: 1;
  pages: Record<string, InterfacePage>;
  collections: Record<string, OfflineCollection>;
  /** The answer to what the page asks first, so that it need not wait for the index. */
  first: { collection: string; request: SearchRequest; answer: SearchAnswer };
}
