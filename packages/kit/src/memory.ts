/** Where a memory is kept: the browser's storage, or anything like it. */
export type MemoryStore = Pick<Storage, 'getItem' | 'setItem'>;

const MOST = 20;

/** What this visitor has asked for, remembered on their device and nowhere else. */
export interface Memory {
  /** The newest first. */
  queries: () => readonly string[];
  addQuery: (query: string) => void;
  forgetQuery: (query: string) => void;
}

/** The browser's storage, or nothing where there is none or it is forbidden. */
function browserStore(): MemoryStore | null {
  try {
    return typeof localStorage === 'undefined' ? null : localStorage;
  } catch {
    return null;
  }
}

/** A memory under a name. Without a store, or with one that is full or forbidden, it lasts as long as the page. */
export function createMemory(name: string, store: MemoryStore | null = browserStore()): Memory {
  const key = `yucca:${name}:queries`;
  let kept: readonly string[] = [];
  const read = (): readonly string[] => {
    try {
      const found: unknown = JSON.parse(store?.getItem(key) ?? 'null');
      if (Array.isArray(found)) kept = found.filter((one): one is string => typeof one === 'string');
    } catch {
      // What cannot be read is as good as forgotten.
    }
    return kept;
  };
  const write = (queries: readonly string[]): void => {
    kept = queries.slice(0, MOST);
    try {
      store?.setItem(key, JSON.stringify(kept));
    } catch {
      // Full or forbidden: it lasts as long as the page.
    }
  };
  const same = (a: string, b: string): boolean => a.toLowerCase() === b.toLowerCase();
  return {
    queries: read,
    addQuery(query) {
      const text = query.trim();
      if (text !== '') write([text, ...read().filter((one) => !same(one, text))]);
    },
    forgetQuery: (query) => write(read().filter((one) => !same(one, query))),
  };
}
