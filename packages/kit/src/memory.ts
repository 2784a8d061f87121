import { parsedJson, unless } from '@yucca/contract';
/** Where a memory is kept: the browser's storage, or anything like it. */
export type MemoryStore = Pick<Storage, 'getItem' | 'setItem'>;

const MOST = 20;

/** A record somebody looked at, as far as it is needed to show it again. */
export interface ViewedRecord {
  collection: string;
  id: string;
  text: string;
  detail?: string | undefined;
  picture?: string | undefined;
  /** Where it is, when that is not the page of its collection. */
  href?: string | undefined;
}

/** What this visitor has asked for and looked at, remembered on their device and nowhere else. */
export interface Memory {
  /** The newest first. */
  queries: () => readonly string[];
  /** Remembers what was asked for, as the newest. */
  addQuery: (query: string) => void;
  /** Forgets it, however it is written. */
  forgetQuery: (query: string) => void;
  /** The newest first. */
  viewed: () => readonly ViewedRecord[];
  /** Remembers that a record was opened, as the newest. */
  addViewed: (record: ViewedRecord) => void;
  /** Forgets it. */
  forgetViewed: (record: Pick<ViewedRecord, 'collection' | 'id'>) => void;
}

/** The browser's storage, or nothing where there is none or it is forbidden. */
function browserStore(): MemoryStore | null {
  return unless(DOMException, () => (typeof localStorage === 'undefined' ? null : localStorage), null);
}

/** A list that is kept: the newest first, none twice, no more than MOST. */
function keptList<T>(
  key: string,
  store: MemoryStore | null,
  isOne: (found: unknown) => found is T,
  same: (a: T, b: T) => boolean,
) {
  let kept: readonly T[] = [];
  const read = (): readonly T[] => {
    // What cannot be read is as good as forgotten.
    const found = parsedJson(unless<string | null>(DOMException, () => store?.getItem(key) ?? null, null) ?? '');
    if (Array.isArray(found)) kept = found.filter(isOne);
    return kept;
  };
  const write = (list: readonly T[]): void => {
    kept = list.slice(0, MOST);
    // Where that is refused it lasts as long as the page.
    unless(DOMException, () => store?.setItem(key, JSON.stringify(kept)), undefined);
  };
  return {
    read,
    add: (one: T) => write([one, ...read().filter((other) => !same(one, other))]),
    forget: (isIt: (one: T) => boolean) => write(read().filter((one) => !isIt(one))),
  };
}

const isText = (found: unknown): found is string => typeof found === 'string';

const isViewed = (found: unknown): found is ViewedRecord =>
  typeof found === 'object' &&
  found !== null &&
  (['collection', 'id', 'text'] as const).every((name) => typeof (found as ViewedRecord)[name] === 'string');

const sameText = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();

const sameRecord = (a: Pick<ViewedRecord, 'collection' | 'id'>, b: Pick<ViewedRecord, 'collection' | 'id'>): boolean =>
  a.collection === b.collection && a.id === b.id;

/** A memory under a name. Without a store, or with one that is full or forbidden, it lasts as long as the page. */
export function createMemory(name: string, store: MemoryStore | null = browserStore()): Memory {
  const queries = keptList(`yucca:${name}:queries`, store, isText, sameText);
  const viewed = keptList(`yucca:${name}:viewed`, store, isViewed, sameRecord);
  return {
    queries: queries.read,
    addQuery: (query) => query.trim() !== '' && queries.add(query.trim()),
    forgetQuery: (query) => queries.forget((one) => sameText(one, query)),
    viewed: viewed.read,
    addViewed: viewed.add,
    forgetViewed: (record) => viewed.forget((one) => sameRecord(one, record)),
  };
}
