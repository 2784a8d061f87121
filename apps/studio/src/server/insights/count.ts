/** Adds what visitors did to the sums by hour and day, or takes it away again. */
import type Database from 'better-sqlite3';
import type { settledSearches } from '../db/insights-schema';
import { QuerySums, Sums, type Cell } from './sums';
import { bucketOf } from './time-buckets';

export type SettledRow = typeof settledSearches.$inferSelect;

export const HOUR_MS = 3_600_000;
export const DAY_MS = 24 * HOUR_MS;

/**
 * Different tags, and different queries of a tag, that are counted on a day; what comes after that is counted in the
 * sums alone, so that nobody can make the tables grow without end.
 */
const MOST = { tags: 60, queries: 20_000, choices: 5_000, records: 100_000, ranks: 50_000 };
/** Ranks that judgements are made from. */
const DEEPEST = 50;
/** Of a tag, so many of what may be counted of all. */
const TAG_SHARE = 10;
/** Names kept in memory; they are read again when they are asked for again. */
const MOST_NAMES = 300_000;
export type CountLimits = typeof MOST;

const TAG = ['collection_id', 'tag'];
const RANK = ['collection_id', 'words', 'record_id', 'rank', 'day'];

/** What has to be counted once and is counted on one connection. */
export class Counts {
  readonly #client: Database.Database;
  readonly #limits: CountLimits;
  readonly #hours: Sums;
  readonly #days: Sums;
  readonly #times: Sums;
  readonly #choices: Sums;
  readonly #records: Sums;
  readonly #ranks: Sums;
  readonly #queries: QuerySums;
  readonly #refined: Database.Statement;
  readonly #see: Database.Statement;
  /** How many different ones a day has, as far as it was asked. */
  readonly #many = new Map<string, Set<string>>();
  readonly #asks = new Map<string, Database.Statement>();
  #names = 0;

  constructor(client: Database.Database, limits: CountLimits = MOST) {
    this.#client = client;
    this.#limits = limits;
    const searches = ['searches', 'missed', 'clicked', 'places', 'conversions'];
    this.#hours = new Sums(client, 'insight_hours', [...TAG, 'hour'], searches);
    this.#days = new Sums(client, 'insight_days', [...TAG, 'day'], ['visitors']);
    this.#times = new Sums(client, 'insight_times', [...TAG, 'day', 'bucket'], ['searches']);
    this.#choices = new Sums(client, 'insight_choices', [...TAG, 'day', 'facet', 'value'], ['searches']);
    this.#records = new Sums(client, 'insight_records', [...TAG, 'day', 'record_id'], ['shown', 'clicked']);
    this.#ranks = new Sums(client, 'insight_ranks', RANK, ['shown', 'opened']);
    this.#queries = new QuerySums(client);
    this.#refined = client.prepare(
      `insert into insight_refined (collection_id, tag, day, words, next, text, next_text, searches, found)
       values (?, ?, ?, ?, ?, ?, ?, ?, ?)
       on conflict (collection_id, tag, day, words, next) do update set
         searches = searches + excluded.searches, found = found + excluded.found`,
    );
    this.#see = client.prepare(
      `insert or ignore into insight_seen (collection_id, tag, day, words, visitor) values (?, ?, ?, ?, ?)`,
    );
  }

  /** A query that was settled; `times` −1 takes it away again. */
  search(row: SettledRow, times = 1): void {
    const weight = row.weight * times;
    const nothing = row.total === 0 ? weight : 0;
    const hour = Math.floor(row.at / HOUR_MS);
    const day = Math.floor(row.at / DAY_MS);
    for (const tag of this.#tagsOf(row)) {
      const scope = [row.collectionId, tag];
      const isNew = (words: string): number =>
        times < 0 ? 0 : this.#see.run(...scope, day, words, row.visitor).changes;
      this.#hours.add([...scope, hour], weight, nothing, 0, 0, 0);
      this.#times.add([...scope, day, bucketOf(row.ms)], weight);
      const visitors = isNew('') * row.weight;
      if (visitors > 0) this.#days.add([...scope, day], visitors);
      if (this.#isOneOf(`queries ${row.collectionId} ${tag} ${day}`, row.words, this.#limits.queries, tag)) {
        const visitors = isNew(row.words) * row.weight;
        this.#queries.asked({
          key: [...scope, day, row.words],
          text: row.text,
          searches: weight,
          visitors,
          missed: nothing,
          chosen: row.chosen ? weight : 0,
          msSum: row.ms * weight,
          msMost: row.ms,
          lastAt: row.at,
          lastMissedAt: row.total > 0 ? null : row.at,
          lastFoundAt: row.total > 0 ? row.at : null,
        });
      }
    }
  }

  /** Values that were chosen in facets of a query. */
  choices(row: SettledRow, chosen: readonly (readonly [facet: string, value: string])[], times = 1): void {
    const day = Math.floor(row.at / DAY_MS);
    for (const tag of this.#tagsOf(row))
      for (const [facet, value] of chosen)
        if (this.#isOneOf(`choices ${row.collectionId} ${tag} ${day}`, `${facet} ${value}`, this.#limits.choices, tag))
          this.#choices.add([row.collectionId, tag, day, facet, value], row.weight * times);
  }

  /** The first result that was opened of a query, at its rank; and whether what the page is for was done. */
  acted(row: SettledRow, { clicked = 0, place = 0, conversions = 0 }, times = 1): void {
    const weight = row.weight * times;
    const acts = { clicked: clicked * weight, places: place * weight, conversions: conversions * weight };
    const hour = Math.floor(row.at / HOUR_MS);
    const day = Math.floor(row.at / DAY_MS);
    for (const tag of this.#tagsOf(row)) {
      this.#hours.add([row.collectionId, tag, hour], 0, 0, acts.clicked, acts.places, acts.conversions);
      this.#queries.acted({ key: [row.collectionId, tag, day, row.words], ...acts, refined: 0 });
    }
  }

  /** A query whose visitor asked for something else right after, without having opened anything. */
  refined(row: SettledRow, next: SettledRow, times = 1): void {
    const weight = row.weight * times;
    const day = Math.floor(row.at / DAY_MS);
    for (const tag of this.#tagsOf(row)) {
      const scope = [row.collectionId, tag, day];
      this.#queries.acted({ key: [...scope, row.words], clicked: 0, places: 0, conversions: 0, refined: weight });
      this.#refined.run(...scope, row.words, next.words, row.text, next.text, weight, next.total > 0 ? weight : 0);
    }
  }

  /** A record that came into sight, or was opened, at a rank. Of all visitors alone: a page of results shows dozens. */
  record(row: SettledRow, recordId: string, what: 'shown' | 'clicked', rank: number | null): void {
    const day = Math.floor(row.at / DAY_MS);
    const sums = what === 'shown' ? [row.weight, 0] : [0, row.weight];
    if (this.#isOneOf(`records ${row.collectionId}  ${day}`, recordId, this.#limits.records))
      this.#records.add([row.collectionId, '', day, recordId], ...sums);
    const pair = `${row.words} ${recordId}`;
    if (
      rank !== null &&
      rank <= DEEPEST &&
      this.#isOneOf(`ranks ${row.collectionId}  ${day}`, pair, this.#limits.ranks)
    )
      this.#ranks.add([row.collectionId, row.words, recordId, rank, day], ...sums);
  }

  /** Writes what was added up; until then nothing of it is in the tables, but who was seen. */
  write(): void {
    for (const sums of this.#all) sums.write();
  }

  /** Forgets it instead: it was not to be. */
  drop(): void {
    for (const sums of this.#all) sums.drop();
  }

  get #all(): readonly { write: () => void; drop: () => void }[] {
    return [this.#hours, this.#days, this.#times, this.#choices, this.#records, this.#ranks, this.#queries];
  }

  /** '' for all, and those of its tags that are counted on its day. */
  #tagsOf(row: SettledRow): string[] {
    const day = Math.floor(row.at / DAY_MS);
    const tags = JSON.parse(row.tags) as string[];
    return ['', ...tags.filter((tag) => this.#isOneOf(`tags ${row.collectionId} ${day}`, tag, this.#limits.tags))];
  }

  /** Whether something is counted on its own: it is already, or there is room for one more. */
  #isOneOf(where: string, what: string, mostOfAll: number, tag = ''): boolean {
    const most = tag === '' ? mostOfAll : Math.ceil(mostOfAll / TAG_SHARE);
    let known = this.#many.get(where);
    if (known === undefined) {
      known = this.#knownOf(where);
      // Days come one after the other: what was long ago is not asked for again.
      if (this.#names > MOST_NAMES) this.#forget();
      this.#many.set(where, known);
      this.#names += known.size;
    }
    if (known.has(what)) return true;
    if (known.size >= most) return false;
    known.add(what);
    this.#names++;
    return true;
  }

  #forget(): void {
    // They are read from the tables when they are asked for again.
    this.write();
    this.#many.clear();
    this.#names = 0;
  }

  #knownOf(where: string): Set<string> {
    const [kind, collection, ...rest] = where.split(' ');
    const day = Number(rest.at(-1));
    const tag = rest.slice(0, -1).join(' ');
    const known = (sql: string, ...values: Cell[]): Set<string> => {
      let ask = this.#asks.get(sql);
      if (!ask) this.#asks.set(sql, (ask = this.#client.prepare(sql).pluck()));
      return new Set(ask.all(...values) as string[]);
    };
    if (kind === 'tags')
      return known(`select tag from insight_days where collection_id = ? and day = ?`, Number(collection), day);
    if (kind === 'ranks')
      return known(
        `select distinct words || ' ' || record_id from insight_ranks where collection_id = ? and day = ?`,
        Number(collection),
        day,
      );
    const columns = { queries: 'words', choices: `facet || ' ' || value`, records: 'record_id' };
    const column = columns[kind as keyof typeof columns];
    const sql = `select ${column} from insight_${kind!} where collection_id = ? and tag = ? and day = ?`;
    return known(sql, Number(collection), tag, day);
  }
}
