/** The back office's own database: plants, and what still has to be told of them. */
import Database from 'better-sqlite3';

export interface Plant {
  id: string;
  name: string;
  price: number;
  stock: number;
  [field: string]: unknown;
}

/** An event on its way: told again until it was taken. */
export interface Waiting {
  number: number;
  event: string;
  tries: number;
}

/** What goes wrong on the way, as shares of events; `delayMs` at the most. */
export interface Trouble {
  lose: number;
  repeat: number;
  reorder: number;
  delayMs: number;
  stopped: boolean;
}

export const NO_TROUBLE: Trouble = { lose: 0, repeat: 0, reorder: 0, delayMs: 0, stopped: false };

export class Store {
  readonly #db: Database.Database;

  constructor(file: string) {
    this.#db = new Database(file);
    this.#db.pragma('journal_mode = WAL');
    this.#db.exec(`
      create table if not exists plants (id text primary key, json text not null);
      create table if not exists outbox (number integer primary key autoincrement, event text not null, due integer not null, tries integer not null default 0);
      create table if not exists settings (name text primary key, value text not null);
    `);
  }

  get isEmpty(): boolean {
    return this.#db.prepare('select 1 from plants limit 1').get() === undefined;
  }

  fill(lines: Iterable<string>): void {
    const insert = this.#db.prepare('insert or replace into plants (id, json) values (?, ?)');
    this.#db.transaction(() => {
      for (const line of lines) if (line !== '') insert.run((JSON.parse(line) as Plant).id, line);
    })();
  }

  plants(words: string, most: number): Plant[] {
    return this.#db
      .prepare('select json from plants where instr(lower(json), ?) > 0 order by id limit ?')
      .pluck()
      .all(words.toLowerCase(), most)
      .map((json) => JSON.parse(json as string) as Plant);
  }

  /** All plants, one JSON object a line. */
  lines(): string[] {
    return this.#db.prepare('select json from plants order by id').pluck().all() as string[];
  }

  plant(id: string): Plant | null {
    const json = this.#db.prepare('select json from plants where id = ?').pluck().get(id) as string | undefined;
    return json === undefined ? null : (JSON.parse(json) as Plant);
  }

  /** Changes a plant, or takes it out of the shop, and has it told: both or neither. */
  change(id: string, changes: Partial<Plant> | null, now = new Date()): void {
    this.#db
      .transaction(() => {
        const plant = this.plant(id);
        if (changes === null) this.#db.prepare('delete from plants where id = ?').run(id);
        else {
          const next = JSON.stringify({ ...plant, ...changes, id });
          this.#db.prepare('insert or replace into plants (id, json) values (?, ?)').run(id, next);
        }
        const what = changes === null ? 'deleted' : plant === null ? 'upserted' : 'patched';
        const number = Number(this.setting('sequence') ?? 0) + 1;
        this.set('sequence', String(number));
        const event = JSON.stringify({
          specversion: '1.0',
          id: `change-${number}`,
          source: '/back-office',
          type: `plant.${what}`,
          subject: id,
          time: now.toISOString(),
          sequence: String(number),
          ...(changes !== null && { data: what === 'patched' ? changes : { ...changes, id } }),
        });
        this.#db.prepare('insert into outbox (event, due) values (?, ?)').run(event, now.getTime());
      })
      .immediate();
  }

  due(now: number, most: number): Waiting[] {
    return this.#db
      .prepare('select number, event, tries from outbox where due <= ? order by due, number limit ?')
      .all(now, most) as Waiting[];
  }

  later(number: number, due: number): void {
    this.#db.prepare('update outbox set due = ?, tries = tries + 1 where number = ?').run(due, number);
  }

  told(number: number): void {
    this.#db.prepare('delete from outbox where number = ?').run(number);
  }

  get waiting(): number {
    return this.#db.prepare('select count(*) from outbox').pluck().get() as number;
  }

  setting(name: string): string | null {
    return (
      (this.#db.prepare('select value from settings where name = ?').pluck().get(name) as string | undefined) ?? null
    );
  }

  set(name: string, value: string): void {
    this.#db.prepare('insert or replace into settings (name, value) values (?, ?)').run(name, value);
  }

  get trouble(): Trouble {
    return { ...NO_TROUBLE, ...(JSON.parse(this.setting('trouble') ?? '{}') as Partial<Trouble>) };
  }

  close(): void {
    this.#db.close();
  }
}
