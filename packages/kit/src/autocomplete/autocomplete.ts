import { Store } from '../store.ts';
import type { Offer, Section, Source } from './source.ts';

/** What an autocomplete shows at one moment. */
export interface AutocompleteSnapshot {
  /** As typed. */
  text: string;
  open: boolean;
  /** In the order of the sources; empty ones are left out. */
  sections: readonly Section[];
  /** All offers one after the other, as the arrow keys go through them. */
  offers: readonly Offer[];
  /** The offer that is pointed at, by its place in `offers`; -1 = none. */
  active: number;
  loading: boolean;
}

/** Where offers come from, and when they are asked for. */
export interface AutocompleteOptions {
  sources: readonly Source[];
  text?: string;
  /** Waits this long after a keystroke before it asks, for sources that are slow. Milliseconds; default 0. */
  waitMs?: number | undefined;
  /** What comes first: remote sources show their answers when it has settled, such as the results of the keystroke. */
  after?: (() => Promise<unknown>) | undefined;
}

const CLOSED = { open: false, active: -1 };

/**
 * What is offered while somebody types, without a framework and without a page: sources are asked with every keystroke,
 * each shows its answer when it comes, and the last answer of a source stays until its next one. An answer to an older
 * text is never taken. Which row is pointed at follows the row, not its place.
 */
export class Autocomplete extends Store<AutocompleteSnapshot> {
  #options: AutocompleteOptions;
  readonly #answers = new Map<string, readonly Section[]>();
  #run = 0;
  #abort: AbortController | null = null;
  #timer: ReturnType<typeof setTimeout> | null = null;

  constructor(options: AutocompleteOptions) {
    super({ text: options.text ?? '', ...CLOSED, sections: [], offers: [], loading: false });
    this.#options = options;
  }

  /** Takes what is in the field now, and opens. */
  type(text: string): void {
    this.set({ text, open: true, active: -1 });
    this.#ask();
  }

  /** Offers come from elsewhere from now on; what is open stays open and is asked again. */
  change(sources: readonly Source[]): void {
    this.#options = { ...this.#options, sources };
    if (this.snapshot().open) this.#ask();
  }

  /** Takes a text that came from elsewhere (Back, a choice) without opening. */
  settle(text: string): void {
    if (text === this.snapshot().text && !this.snapshot().open) return;
    this.#stop();
    this.#answers.clear();
    this.set({ text, ...CLOSED, sections: [], offers: [], loading: false });
  }

  /** Opens with what there is for the text in the field: on focus, on an arrow key. */
  open(): void {
    if (this.snapshot().open) return;
    this.set({ open: true });
    this.#ask();
  }

  /** Closes the list; what is in flight is dropped. */
  close(): void {
    this.#stop();
    if (this.snapshot().open) this.set({ ...CLOSED, loading: false });
  }

  /** Points at the next or previous offer, going round by way of none; or at the first or last. */
  move(to: 'next' | 'previous' | 'first' | 'last'): void {
    const { offers, active } = this.snapshot();
    if (offers.length === 0) return;
    const round = (at: number): number => (at >= offers.length ? -1 : at < -1 ? offers.length - 1 : at);
    const next = { next: active + 1, previous: active - 1, first: 0, last: offers.length - 1 }[to];
    this.set({ active: round(next) });
  }

  /** Points at an offer, or at none (-1). */
  point(at: number): void {
    if (at !== this.snapshot().active) this.set({ active: at });
  }

  /** The offer that is pointed at. */
  pointed(): Offer | null {
    return this.snapshot().offers[this.snapshot().active] ?? null;
  }

  /** Forgets a removable offer; returns whether there was one to forget. */
  remove(offer: Offer | null): boolean {
    if (!offer?.removable) return false;
    this.#options.sources.forEach((source) => {
      const mine = this.#answers.get(source.name)?.some(({ offers }) => offers.includes(offer));
      if (mine) source.remove?.(offer);
    });
    this.#ask();
    return true;
  }

  #stop(): void {
    this.#run++;
    this.#abort?.abort();
    this.#abort = null;
    if (this.#timer !== null) clearTimeout(this.#timer);
    this.#timer = null;
  }

  #ask(): void {
    this.#stop();
    const { waitMs = 0 } = this.#options;
    const run = this.#run;
    if (waitMs === 0) this.#load(run);
    else this.#timer = setTimeout(() => this.#load(run), waitMs);
  }

  #load(run: number): void {
    const { text } = this.snapshot();
    // Before the first letter there are no results to wait for.
    const first = text === '' ? undefined : this.#options.after?.();
    // Where no source waits for them, nobody else hears of results that fail.
    first?.catch(() => {});
    const letters = [...text.trim()].length;
    const abort = new AbortController();
    this.#abort = abort;
    let waiting = 0;
    const take = (name: string, sections: readonly Section[]): void => {
      this.#answers.set(name, sections);
      this.#show();
    };
    for (const source of this.#options.sources) {
      if (letters < (source.from ?? 1) || letters > (source.upTo ?? Infinity)) {
        this.#answers.delete(source.name);
        continue;
      }
      const loaded = source.load(letters === 0 ? '' : text, abort.signal);
      const found = first && source.remote ? Promise.all([loaded, first]).then(([sections]) => sections) : loaded;
      if (!(found instanceof Promise)) {
        this.#answers.set(source.name, found);
        continue;
      }
      waiting++;
      found
        .then(
          (sections) => run === this.#run && take(source.name, sections),
          // A source that fails offers nothing; the others go on.
          () => run === this.#run && take(source.name, []),
        )
        .finally(() => {
          if (--waiting === 0 && run === this.#run) this.set({ loading: false });
        });
    }
    this.set({ loading: waiting > 0 });
    this.#show();
  }

  #show(): void {
    const before = this.pointed();
    const sections = this.#options.sources
      .flatMap(({ name }) => this.#answers.get(name) ?? [])
      .filter(({ offers }) => offers.length > 0);
    const offers = sections.flatMap((section) => section.offers);
    const active = before === null ? -1 : offers.findIndex(({ id }) => id === before.id);
    this.set({ sections, offers, active });
  }
}
