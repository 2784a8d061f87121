import type { Range, SearchResult } from '@yucca/contract';
import type { YuccaClient } from '../client.ts';
import type { Memory, ViewedRecord } from '../memory.ts';

/** One row that is offered while somebody types. */
export interface Offer {
  /** Unique among the rows that are offered at once. */
  id: string;
  /** What choosing it means to the page; a word of the source's own. */
  kind: string;
  text: string;
  /** The part of `text` that was typed. */
  ranges?: readonly Range[] | undefined;
  /** A second line. */
  detail?: string | undefined;
  picture?: string | undefined;
  /** Where choosing it leads. */
  href?: string | undefined;
  /** Records behind it. */
  count?: number | undefined;
  /** It can be forgotten (a past query). */
  removable?: boolean;
  /** Whatever the page needs when it is chosen: the record, the facet, the address. */
  data?: unknown;
}

/** Rows under one heading. */
export interface Section {
  name: string;
  label: string;
  offers: readonly Offer[];
  /** How many there are in all, when more than the ones offered are known. */
  total?: number | undefined;
}

/** Where offers come from: your records, facet values, past queries, a list of your own, any function. */
export interface Source {
  name: string;
  /** The sections for what is typed; `''` before the first letter. Stop when `signal` fires. */
  load: (text: string, signal: AbortSignal) => Promise<readonly Section[]> | readonly Section[];
  /** It asks a server: the autocomplete may let something else be shown first. */
  remote?: boolean;
  /** Letters from which it is asked; 0 = before the first one. Default: 1. */
  from?: number;
  /** Letters up to which it is asked. Default: no end. */
  upTo?: number;
  /** Forgets a removable offer. */
  remove?: (offer: Offer) => void;
}

/** A collection whose records are offered, and what of them. */
export interface CollectionOffers {
  collection: string;
  label: string;
  /** Rows offered. Default: 4. */
  size?: number;
  /** Fields a row needs; default: those that a search of the collection answers. */
  fields?: readonly string[];
  /** What a row shows of a result. `collection` comes along for pages with several. */
  row: (result: SearchResult) => Pick<Offer, 'text' | 'ranges' | 'detail' | 'picture' | 'href'>;
}

export interface RecordsSourceOptions {
  name?: string;
  from?: number;
  upTo?: number;
  /** Whether headings tell how many there are in all. Default: yes. */
  totals?: boolean;
}

/** Records of one or more collections, all of them asked in one request. The kind of their offers is `record`. */
export function recordsSource(
  client: Pick<YuccaClient, 'multiSearch'>,
  collections: readonly CollectionOffers[],
  { name = 'records', from = 1, upTo, totals = true }: RecordsSourceOptions = {},
): Source {
  return {
    name,
    remote: true,
    from,
    ...(upTo !== undefined && { upTo }),
    async load(text, signal) {
      const queries = collections.map(({ collection, size = 4, fields }) => ({
        ...{ collection, q: text, size, record: false },
        ...(fields && { fields: [...fields] }),
      }));
      const answers = await client.multiSearch(queries, signal);
      return collections.flatMap(({ collection, label, row }, i): Section[] => {
        const answer = answers[i];
        if (!answer || !('results' in answer)) return [];
        const offers = answer.results.map((result) => ({
          id: `${name}/${collection}/${result.id}`,
          kind: 'record',
          data: { collection, result },
          ...row(result),
        }));
        return [{ name: `${name}/${collection}`, label, offers, ...(totals && { total: answer.total }) }];
      });
    },
  };
}

/** Facet values and past queries of all visitors that go on from what is typed. Kinds: `value` and `query`. */
export function completionsSource(
  client: Pick<YuccaClient, 'suggest'>,
  { collection, label, size = 4, from = 1 }: { collection: string; label: string; size?: number; from?: number },
): Source {
  return {
    name: 'completions',
    remote: true,
    from,
    async load(text, signal) {
      const { suggestions } = await client.suggest(collection, text, size, signal);
      const offers = suggestions
        .filter(({ kind }) => kind !== 'record')
        .map((one): Offer => ({
          id: `completions/${one.kind}/${one.facet ?? ''}/${one.value ?? one.text}`,
          kind: one.kind,
          text: one.text,
          ranges: one.ranges,
          count: one.count,
          data: one,
        }));
      return [{ name: 'completions', label, offers }];
    },
  };
}

/** What this visitor has asked for before, on this device only. Kind: `past`. */
export function pastQueriesSource(
  memory: Memory,
  { label, size = 4, from = 0 }: { label: string; size?: number; from?: number },
): Source {
  return {
    name: 'past',
    from,
    load(text) {
      const typed = text.trim().toLowerCase();
      const offers = memory
        .queries()
        .filter((query) => query.toLowerCase().startsWith(typed) && query.toLowerCase() !== typed)
        .slice(0, size)
        .map((query): Offer => ({
          id: `past/${query}`,
          kind: 'past',
          text: query,
          ranges: typed === '' ? [] : [[0, typed.length]],
          removable: true,
        }));
      return [{ name: 'past', label, offers }];
    },
    remove: (offer) => memory.forgetQuery(offer.text),
  };
}

/** Records this visitor has looked at, on this device only. Kind: `viewed`; `data` is the `ViewedRecord`. */
export function viewedSource(memory: Memory, { label, size = 4 }: { label: string; size?: number }): Source {
  return {
    name: 'viewed',
    from: 0,
    upTo: 0,
    load() {
      const offers = memory
        .viewed()
        .slice(0, size)
        .map((record): Offer => ({
          id: `viewed/${record.collection}/${record.id}`,
          kind: 'viewed',
          text: record.text,
          detail: record.detail,
          picture: record.picture,
          href: record.href,
          removable: true,
          data: record,
        }));
      return [{ name: 'viewed', label, offers }];
    },
    remove: (offer) => memory.forgetViewed(offer.data as ViewedRecord),
  };
}

/** Rows that are always the same, filtered by how they begin; `size` of them at most. */
export function staticSource(name: string, label: string, rows: readonly Offer[], from = 0, size = Infinity): Source {
  return {
    name,
    from,
    load(text) {
      const typed = text.trim().toLowerCase();
      const offers = rows.filter((row) => row.text.toLowerCase().startsWith(typed)).slice(0, size);
      return [{ name, label, offers }];
    },
  };
}
