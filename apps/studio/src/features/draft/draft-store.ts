import { Store } from '@yucca/kit';
import { mergeDrafts } from './merge-drafts';

export interface DraftCost {
  rebuild: boolean;
  /** Seconds that a rebuild takes about. */
  aboutS: number;
}

/** What the store asks of the server. */
export interface DraftServer<D extends object> {
  /** What saving a draft costs; absent where it costs nothing. */
  cost?: (document: D, known: { live: D; saved: D }) => DraftCost | Promise<DraftCost>;
  /** Saves over `base`, a draft that was read or saved here; throws a DraftChanged when it is another one by now. */
  save: (document: D, base: D) => Promise<void>;
  /** The draft as it is now. */
  read: () => Promise<D>;
  /** Returns what the draft is then: as live. */
  discard: () => Promise<D>;
  publish: (note: string | null) => Promise<{ version: number }>;
}

/** Somebody else has changed the draft meanwhile. */
export class DraftChanged extends Error {
  override name = 'DraftChanged';
}

export interface DraftState<D extends object> {
  /** As it is on screen. */
  document: D;
  /** As the server has it: what a probe of the draft answers with. */
  saved: D;
  live: D;
  /** There is a draft on the server. */
  exists: boolean;
  /** `asking`: saving it needs a long rebuild, and somebody has to say so. `clash`: another window changed the same. */
  status: 'saved' | 'saving' | 'asking' | 'failed' | 'clash';
  /** With `clash`: the properties both have changed. */
  clashes: readonly string[];
  cost: DraftCost | null;
  problem: string | null;
  canUndo: boolean;
  canRedo: boolean;
  /** Grows with everything the server has taken over. */
  saves: number;
}

export interface ChangeOptions {
  /** The same for changes that belong together. */
  gesture?: string | null;
}

/** Rebuilds shorter than this are not worth a question. */
const ASK_FROM_S = 1;
const STEPS = 100;
export const FREE: DraftCost = { rebuild: false, aboutS: 0 };

/**
 * The draft of a document on screen. Every change is shown at once and saved behind it, one save at a time and the
 * newest state last; a change that costs a long rebuild waits for a word. What could not be saved stays on screen.
 */
export class DraftStore<D extends object> extends Store<DraftState<D>> {
  readonly #server: DraftServer<D>;
  #past: D[] = [];
  #future: D[] = [];
  /** The gesture of the last change. */
  #gesture: string | null = null;
  #saving: Promise<void> | null = null;

  constructor(server: DraftServer<D>, start: { live: D; draft: D; exists: boolean }) {
    super({
      document: start.draft,
      saved: start.draft,
      live: start.live,
      exists: start.exists,
      status: 'saved',
      cost: null,
      problem: null,
      clashes: [],
      canUndo: false,
      canRedo: false,
      saves: 0,
    });
    this.#server = server;
  }

  protected override set(change: Partial<DraftState<D>>): void {
    super.set({ ...change, canUndo: this.#past.length > 0, canRedo: this.#future.length > 0 });
  }

  /**
   * Changes the draft. Changes that follow each other within one gesture, such as typing a number, are undone together.
   */
  change(next: (document: D) => D, { gesture = null }: ChangeOptions = {}): void {
    const before = this.snapshot().document;
    const document = next(before);
    if (JSON.stringify(document) === JSON.stringify(before)) return;
    const goesOn = gesture !== null && gesture === this.#gesture;
    if (!goesOn) this.#past = [...this.#past, before].slice(-STEPS);
    this.#gesture = gesture;
    this.#future = [];
    this.#put(document);
  }

  undo(): void {
    this.#gesture = null;
    const document = this.#past.pop();
    if (!document) return;
    this.#future.push(this.snapshot().document);
    this.#put(document);
  }

  redo(): void {
    this.#gesture = null;
    const document = this.#future.pop();
    if (!document) return;
    this.#past.push(this.snapshot().document);
    this.#put(document);
  }

  #put(document: D): void {
    this.set({ document, status: 'saving', problem: null });
    void this.#save(false);
  }

  /** Saves what waits for a word, however long the rebuild takes. */
  confirm(): Promise<void> {
    this.set({ status: 'saving' });
    return this.#save(true);
  }

  /** Tries again after a failure. */
  retry(): Promise<void> {
    this.set({ status: 'saving', problem: null });
    return this.#save(false);
  }

  #save(confirmed: boolean): Promise<void> {
    this.#saving ??= this.#saveNewest(confirmed).finally(() => (this.#saving = null));
    return this.#saving;
  }

  async #saveNewest(confirmed: boolean): Promise<void> {
    for (let agreed = confirmed; ; agreed = false) {
      const { document } = this.snapshot();
      try {
        const { live, saved } = this.snapshot();
        const cost = (await this.#server.cost?.(document, { live, saved })) ?? FREE;
        if (document !== this.snapshot().document) continue;
        if (cost.rebuild && cost.aboutS > ASK_FROM_S && !agreed) return this.set({ status: 'asking', cost });
        if (this.#server.cost) this.set({ cost });
        await this.#server.save(document, this.snapshot().saved);
        this.set({ saved: document, exists: true, saves: this.snapshot().saves + 1 });
        if (document === this.snapshot().document) return this.set({ status: 'saved' });
      } catch (error) {
        if (error instanceof DraftChanged) {
          if (await this.#takeIn()) continue;
          return;
        }
        if (document === this.snapshot().document)
          return this.set({ status: 'failed', problem: (error as Error).message });
      }
    }
  }

  /**
   * Takes in what another window has saved. What only one of both has changed is kept; true when that was all. What
   * both have changed stands on screen as it is here until somebody chooses.
   */
  async #takeIn(): Promise<boolean> {
    const { saved, document } = this.snapshot();
    const theirs = await this.#server.read();
    const { merged, clashes } = mergeDrafts(saved, document, theirs);
    this.set({ saved: theirs, document: merged, exists: true, clashes, saves: this.snapshot().saves + 1 });
    if (clashes.length > 0) this.set({ status: 'clash' });
    return clashes.length === 0;
  }

  /** Settles a clash: what is here, or what the other window has saved, of the properties both have changed. */
  settle(whose: 'mine' | 'theirs'): Promise<void> {
    const { document, saved, clashes } = this.snapshot();
    const theirs = Object.fromEntries(clashes.map((name) => [name, saved[name as keyof D]]));
    const next = whose === 'mine' ? document : withoutMissing<D>({ ...document, ...theirs });
    if (whose === 'theirs') this.#past = [...this.#past, document].slice(-STEPS);
    this.set({ document: next, clashes: [], status: 'saving' });
    return this.#save(false);
  }

  /** Looks whether another window has changed the draft, while nothing is being changed here. */
  async catchUp(): Promise<void> {
    if (this.snapshot().status !== 'saved') return;
    const { saved } = this.snapshot();
    // When it cannot be read, saving will say so.
    const theirs = await this.#server.read().catch(() => saved);
    if (JSON.stringify(theirs) === JSON.stringify(saved) || this.snapshot().status !== 'saved') return;
    this.#past = [...this.#past, this.snapshot().document].slice(-STEPS);
    this.#future = [];
    this.set({ document: theirs, saved: theirs, exists: true, saves: this.snapshot().saves + 1 });
  }

  /** Throws the draft away; undo brings it back. */
  async discard(): Promise<void> {
    await this.#saving;
    const live = await this.#server.discard();
    this.#past = [...this.#past, this.snapshot().document].slice(-STEPS);
    this.set({
      document: live,
      saved: live,
      live,
      exists: false,
      status: 'saved',
      saves: this.snapshot().saves + 1,
    });
  }

  /** Makes the draft live. */
  async publish(note: string | null): Promise<number> {
    await this.#saving;
    const { version } = await this.#server.publish(note);
    this.set({ live: this.snapshot().saved, exists: false, saves: this.snapshot().saves + 1 });
    return version;
  }
}

const withoutMissing = <D extends object>(document: D): D =>
  Object.fromEntries(Object.entries(document).filter(([, value]) => value !== undefined)) as D;
