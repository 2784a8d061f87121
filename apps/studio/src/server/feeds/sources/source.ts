import type { FeedSource, PulledSource } from '@yucca/contract';
import type { FeedChange, Print } from '../read-events';

/** A record as its source has it, or why it could not be read: by its key where that is known, else by its line. */
export type SourceLine =
  { json: string; print?: Print } | { error: string; line: number } | { error: string; key: string };

/** A piece of what a source has; all of it is written in one transaction. */
export interface SourceBatch {
  records: SourceLine[];
  /** Keys of records that are as they were. */
  seen: string[];
  /** Changes in the order they happened, of sources that log them. */
  changes: FeedChange[];
  /** The field of the records that tells them apart. */
  key: string;
  /** Where to go on after a crash; null = from the beginning. */
  resume: string | null;
  /** Records expected, as far as it is known. */
  total: number | null;
  /** What the records count as in the order of changes, of sources that log them; null = by the number of the run. */
  order: number | null;
  /** What comes after is like it: fields that it lacks are gone. */
  isAlike: boolean;
  /** It is read from the beginning: what the run had seen before it was broken off counts no more. */
  anew: boolean;
}

/** How the reading of a source ended. */
export interface SourceEnd {
  /** Everything it has was read, so that what was not seen is there no more. */
  whole: boolean;
  /** Where the next run begins. */
  position: string | null;
  /** It said that nothing has changed. */
  unchanged: boolean;
}

export interface ReadOrder {
  feedId: string;
  keyField: string;
  /** Where the last run ended. */
  position: string | null;
  /** Where this run was when it was broken off. */
  resume: string | null;
  /** Read everything, also where only changes could be asked for. */
  whole: boolean;
  loadDir: string | null;
}

/** Reads sources of a kind. Throws a SourceError. A new kind of source is a reader, and a line in `index.ts`. */
export interface SourceReader<S extends PulledSource> {
  read: (source: S, order: ReadOrder) => AsyncGenerator<SourceBatch, SourceEnd>;
}

export const emptyBatch = (key: string): SourceBatch => ({
  records: [],
  seen: [],
  changes: [],
  key,
  resume: null,
  total: null,
  order: null,
  isAlike: true,
  anew: false,
});

/** Reads what a reader noted for itself; null for nothing. */
export const noted = <T>(text: string | null): T | null => (text === null ? null : (JSON.parse(text) as T));

/** A source is asked, and does not send by itself. */
export const isPulled = (source: FeedSource): source is PulledSource => source.kind !== 'webhook';
