/** Sums in the tables of insights, added up in memory first. */
import type Database from 'better-sqlite3';

export type Cell = string | number;

/**
 * Sums of a table by its key. They are added up in memory and written together: searches that come in one batch mostly
 * add to the same rows.
 */
export class Sums {
  readonly #write: Database.Statement;
  readonly #waiting = new Map<string, { key: readonly Cell[]; sums: number[] }>();

  constructor(client: Database.Database, table: string, key: readonly string[], sums: readonly string[]) {
    const columns = [...key, ...sums];
    const marks = columns.map(() => '?').join(', ');
    const updates = sums.map((name) => `${name} = ${name} + excluded.${name}`);
    this.#write = client.prepare(
      `insert into ${table} (${columns.join(', ')}) values (${marks})
       on conflict (${key.join(', ')}) do update set ${updates.join(', ')}`,
    );
  }

  add(key: readonly Cell[], ...sums: number[]): void {
    const name = key.join('\0');
    const waiting = this.#waiting.get(name);
    if (!waiting) this.#waiting.set(name, { key, sums });
    else for (let i = 0; i < sums.length; i++) waiting.sums[i]! += sums[i]!;
  }

  write(): void {
    for (const { key, sums } of this.#waiting.values()) this.#write.run(...key, ...sums);
    this.drop();
  }

  drop(): void {
    this.#waiting.clear();
  }
}

/** What a day says of a query. */
interface QueryAsked {
  key: readonly Cell[];
  text: string;
  searches: number;
  visitors: number;
  missed: number;
  chosen: number;
  msSum: number;
  msMost: number;
  lastAt: number;
  lastMissedAt: number | null;
  lastFoundAt: number | null;
}

/** What was done with its results: only of a query that is counted on its own. */
interface QueryActs {
  key: readonly Cell[];
  clicked: number;
  places: number;
  conversions: number;
  refined: number;
}

/** Sums of queries, added up in memory like all others. */
export class QuerySums {
  readonly #asked = new Map<string, QueryAsked>();
  readonly #acts = new Map<string, QueryActs>();
  readonly #write: Database.Statement;
  readonly #act: Database.Statement;

  constructor(client: Database.Database) {
    this.#write = client.prepare(
      `insert into insight_queries (collection_id, tag, day, words, text, searches, visitors, missed, chosen, ms_sum, ms_most, last_at, last_missed_at, last_found_at)
       values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)
       on conflict (collection_id, tag, day, words) do update set
         searches = searches + excluded.searches, visitors = visitors + excluded.visitors,
         missed = missed + excluded.missed, chosen = chosen + excluded.chosen,
         ms_sum = ms_sum + excluded.ms_sum, ms_most = max(ms_most, excluded.ms_most),
         last_at = max(last_at, excluded.last_at),
         last_missed_at = max(ifnull(last_missed_at, 0), ifnull(excluded.last_missed_at, 0)),
         last_found_at = max(ifnull(last_found_at, 0), ifnull(excluded.last_found_at, 0))`,
    );
    this.#act = client.prepare(
      `update insight_queries set clicked = clicked + ?, places = places + ?, conversions = conversions + ?, refined = refined + ?
       where collection_id = ? and tag = ? and day = ? and words = ?`,
    );
  }

  asked(more: QueryAsked): void {
    const name = more.key.join('\0');
    const sums = this.#asked.get(name);
    if (!sums) return void this.#asked.set(name, more);
    for (const one of ['searches', 'visitors', 'missed', 'chosen', 'msSum'] as const) sums[one] += more[one];
    for (const one of ['msMost', 'lastAt'] as const) sums[one] = Math.max(sums[one], more[one]);
    for (const one of ['lastMissedAt', 'lastFoundAt'] as const)
      if (more[one] !== null) sums[one] = Math.max(sums[one] ?? 0, more[one]);
  }

  acted(more: QueryActs): void {
    const name = more.key.join('\0');
    const acts = this.#acts.get(name);
    if (!acts) return void this.#acts.set(name, more);
    for (const one of ['clicked', 'places', 'conversions', 'refined'] as const) acts[one] += more[one];
  }

  write(): void {
    for (const sums of this.#asked.values()) {
      const { key, text, searches, visitors, missed, chosen, msSum, msMost, lastAt } = sums;
      const counts = [searches, visitors, missed, chosen, msSum, msMost, lastAt];
      this.#write.run(...key, text, ...counts, sums.lastMissedAt, sums.lastFoundAt);
    }
    for (const { key, clicked, places, conversions, refined } of this.#acts.values())
      this.#act.run(clicked, places, conversions, refined, ...key);
    this.drop();
  }

  drop(): void {
    this.#asked.clear();
    this.#acts.clear();
  }
}
