import { parentPort, workerData, type Transferable, type Worker } from 'node:worker_threads';
import { Failure } from '../failure';

/** A failure on its way between threads: errors lose their class there, so the name and extra fields travel along. */
interface ErrorNote {
  name: string;
  message: string;
  [extra: string]: unknown;
}

interface Call {
  call: number;
  method: string;
  args: unknown[];
}

type Reply = { reply: number; value: unknown } | { reply: number; error: ErrorNote } | { event: unknown };

// Methods of any shape: each side knows its own types.
// eslint-disable-next-line @typescript-eslint/no-explicit-any
type Methods = Record<string, (...args: any[]) => unknown>;

/** The error of a call that failed in another thread; `note` keeps its name and fields. */
class RemoteError extends Error {
  override name = 'RemoteError';
  readonly note: ErrorNote;

  constructor(note: ErrorNote) {
    super(note.message);
    this.note = note;
  }
}

/** Whether something thrown came from another thread; told by name, see isFailure. */
export function isRemoteError(error: unknown): error is RemoteError {
  return error instanceof Error && error.name === 'RemoteError';
}

/** The thread that was answering a call is gone; another has taken its place, and the call may be made again. */
export class ThreadLost extends Failure {
  readonly threadLost = true;

  constructor(thread: string, reason: string) {
    super('unavailable', `A part of Yucca had to be started again (${thread}: ${reason}). Try again in a moment.`);
  }
}

export function isThreadLost(error: unknown): error is ThreadLost {
  return error instanceof Error && 'threadLost' in error;
}

/** Thrown inside a thread that is asked to go on with what another had begun whose place it took. */
export class StateLost extends Error {
  override name = 'StateLost';
}

/** What every thread is told at its start besides what it works with. */
export interface Pulse {
  /** Counted up by the thread as long as it gets on: a count that stands still is a thread that hangs. */
  pulse: Int32Array;
}

export interface ThreadOptions {
  name: string;
  spawn: (pulse: Int32Array) => Worker;
  /** Receives what the thread says unasked. */
  onEvent?: (event: unknown) => void;
  /** Told when a thread was lost, before another takes its place. */
  onLost?: (error: Error) => void;
  /** Gives a new thread the state it should have. Its messages come before any others. */
  onReplaced?: () => void;
  /** A thread that has work and does not get on for so long is replaced. */
  hangMs?: number;
}

const LOOK_EVERY_MS = 1_000;
const HANG_MS = 10_000;
/** A thread that dies right after its start is started again ever more slowly. */
const YOUNG_MS = 2_000;
const LONGEST_WAIT_MS = 5_000;

/**
 * The calling side of a worker thread, whichever worker that is at the moment: one that dies, hangs, or cannot read a
 * message is replaced. Calls that were under way fail with a ThreadLost; what is asked next, the new one answers.
 */
export class RemoteThread<M extends Methods> {
  readonly name: string;
  /** How often it had to be replaced. */
  replaced = 0;
  readonly #options: ThreadOptions;
  readonly #pulse = new Int32Array(new SharedArrayBuffer(4));
  readonly #open = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  readonly #watch: ReturnType<typeof setInterval>;
  readonly #whenStarted: (() => void)[] = [];
  #worker: Worker | null = null;
  #startedAt = 0;
  #wait = 0;
  #next = 1;
  #ending = false;
  #seenPulse = 0;
  #stoodStillMs = 0;

  constructor(options: ThreadOptions) {
    this.name = options.name;
    this.#options = options;
    this.#start();
    this.#watch = setInterval(() => this.#look(), LOOK_EVERY_MS).unref();
  }

  get alive(): boolean {
    return this.#worker !== null;
  }

  /** Calls that are under way. */
  get busy(): number {
    return this.#open.size;
  }

  #start(): void {
    const worker = this.#options.spawn(this.#pulse);
    this.#worker = worker;
    this.#startedAt = performance.now();
    worker.on('message', (message: Reply) => this.#hear(worker, message));
    worker.on('messageerror', (error) => this.#lose(worker, error));
    // What was thrown there comes as a copy, which may have lost its sentence.
    worker.on('error', (error) =>
      this.#lose(worker, new Error((error as Error | null)?.message ?? 'it threw something')),
    );
    worker.on('exit', (code) => this.#lose(worker, new Error(`the thread ended with code ${code}`)));
  }

  #hear(worker: Worker, message: Reply): void {
    if (worker !== this.#worker) return;
    if ('event' in message) return this.#options.onEvent?.(message.event);
    const call = this.#open.get(message.reply);
    this.#open.delete(message.reply);
    if ('error' in message) call?.reject(this.#errorOf(message.error));
    else call?.resolve(message.value);
  }

  #errorOf(note: ErrorNote): Error {
    return note.name === 'StateLost' ? new ThreadLost(this.name, note.message) : new RemoteError(note);
  }

  #look(): void {
    const pulse = Atomics.load(this.#pulse, 0);
    const stands = this.#open.size > 0 && pulse === this.#seenPulse;
    this.#seenPulse = pulse;
    this.#stoodStillMs = stands ? this.#stoodStillMs + LOOK_EVERY_MS : 0;
    const most = this.#options.hangMs ?? HANG_MS;
    if (this.#stoodStillMs >= most) this.replace(new Error(`no sign of life for ${most / 1000} s`));
  }

  /** Ends the worker there is and starts another. */
  replace(reason: Error): void {
    if (this.#worker !== null) this.#lose(this.#worker, reason);
  }

  #lose(worker: Worker, error: Error): void {
    if (worker !== this.#worker) return;
    this.#worker = null;
    this.#stoodStillMs = 0;
    void worker.terminate();
    if (!this.#ending) this.#options.onLost?.(error);
    const lost = new ThreadLost(this.name, error.message);
    const calls = [...this.#open.values()];
    this.#open.clear();
    if (!this.#ending) this.#startAgain();
    for (const { reject } of calls) reject(lost);
  }

  #startAgain(): void {
    this.replaced++;
    const young = performance.now() - this.#startedAt < YOUNG_MS;
    this.#wait = young ? Math.min(LONGEST_WAIT_MS, this.#wait * 2 || 50) : 0;
    const start = (): void => {
      if (this.#ending) return;
      this.#start();
      this.#options.onReplaced?.();
      for (const ask of this.#whenStarted.splice(0)) ask();
    };
    if (this.#wait === 0) start();
    else setTimeout(start, this.#wait);
  }

  call<K extends keyof M & string>(
    method: K,
    args: Parameters<M[K]>,
    transfer: Transferable[] = [],
  ): Promise<Given<ReturnType<M[K]>>> {
    return new Promise((resolve, reject) => {
      if (this.#ending) return reject(new ThreadLost(this.name, 'the server stops'));
      // It is being started again; what is asked meanwhile waits that moment.
      if (this.#worker === null) {
        const again = (): void => void this.call(method, args, transfer).then(resolve, reject);
        return void this.#whenStarted.push(again);
      }
      const call = this.#next++;
      this.#open.set(call, { resolve: resolve as (value: unknown) => void, reject });
      try {
        this.#worker.postMessage({ call, method, args } satisfies Call, transfer);
      } catch (error) {
        this.#open.delete(call);
        reject(error as Error);
      }
    });
  }

  /** A call nobody waits for. Should the thread die over it, `onLost` is told. */
  send<K extends keyof M & string>(method: K, args: Parameters<M[K]>): void {
    this.call(method, args).catch((error: unknown) => {
      if (!isThreadLost(error)) this.#options.onLost?.(error as Error);
    });
  }

  /** Ends the thread; calls that are under way fail. */
  async terminate(): Promise<void> {
    this.#ending = true;
    clearInterval(this.#watch);
    for (const ask of this.#whenStarted.splice(0)) ask();
    const worker = this.#worker;
    if (worker === null) return;
    this.#lose(worker, new Error('the server stops'));
    await worker.terminate();
  }
}

/**
 * A thread that is there while it has work and a moment longer. Building an index takes several times its size for a
 * while; a thread that ends gives that back at once, where one that waits would keep it until it next cleans up.
 */
export class ThreadOnDemand<M extends Methods> {
  readonly name: string;
  readonly #options: ThreadOptions;
  readonly #restMs: number;
  #thread: RemoteThread<M> | null = null;
  #calls = 0;
  #closed = false;
  #replacedBefore = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** `restMs`: how long it waits for more work. */
  constructor(options: ThreadOptions, restMs = 5_000) {
    this.name = options.name;
    this.#options = options;
    this.#restMs = restMs;
  }

  get alive(): boolean {
    return this.#thread === null || this.#thread.alive;
  }

  get busy(): number {
    return this.#calls;
  }

  get replaced(): number {
    return this.#replacedBefore + (this.#thread?.replaced ?? 0);
  }

  replace(reason: Error): void {
    this.#thread?.replace(reason);
  }

  async call<K extends keyof M & string>(method: K, args: Parameters<M[K]>): Promise<Given<ReturnType<M[K]>>> {
    if (this.#closed) throw new ThreadLost(this.name, 'the server stops');
    clearTimeout(this.#timer);
    this.#calls++;
    this.#thread ??= new RemoteThread<M>(this.#options);
    try {
      return await this.#thread.call(method, args);
    } finally {
      if (--this.#calls === 0) this.#timer = setTimeout(() => void this.terminate(), this.#restMs).unref();
    }
  }

  /** Ends the thread for good. */
  async close(): Promise<void> {
    this.#closed = true;
    await this.terminate();
  }

  /** Ends the thread until it is needed again. */
  async terminate(): Promise<void> {
    clearTimeout(this.#timer);
    const thread = this.#thread;
    this.#thread = null;
    this.#replacedBefore += thread?.replaced ?? 0;
    await thread?.terminate();
  }
}

const BEAT_EVERY_MS = 500;
const ownPulse = (workerData as Partial<Pulse> | null)?.pulse;

/**
 * Shows that this thread gets on. Called in loops that go on for long without a pause; outside a thread it does
 * nothing.
 */
export function beat(): void {
  if (ownPulse !== undefined) Atomics.add(ownPulse, 0, 1);
}

/** A value whose bytes are handed over to the other thread, not copied; this one can't read them any more. */
export class Moved<T> {
  readonly value: T;
  readonly buffers: readonly ArrayBuffer[];

  constructor(value: T, buffers: readonly ArrayBuffer[]) {
    this.value = value;
    this.buffers = buffers;
  }
}

/** What the caller gets of what a method returns. */
type Given<R> = Awaited<R> extends Moved<infer T> ? T : Awaited<R>;

/** The answering side, inside the worker thread. */
export function serve(methods: Methods, settled: (method: string) => Promise<void> | null = () => null): void {
  const port = parentPort;
  if (port === null) throw new Error('serve() belongs into a worker thread');
  setInterval(beat, BEAT_EVERY_MS).unref();
  // What cannot be read will never be answered: another thread begins anew.
  port.on('messageerror', (error) => {
    throw error;
  });
  port.on('message', async ({ call, method, args }: Call) => {
    beat();
    try {
      const value = await methods[method]!(...args);
      await settled(method);
      if (value instanceof Moved) port.postMessage({ reply: call, value: value.value as unknown }, [...value.buffers]);
      else port.postMessage({ reply: call, value });
    } catch (error) {
      port.postMessage({ reply: call, error: noteOf(error) });
    }
  });
}

/** What can be told of an error: its name, its sentence, and its plain fields. */
function noteOf(error: unknown): ErrorNote {
  if (!(error instanceof Error)) return { name: 'Error', message: String(error) };
  const plain = Object.entries(error).filter(([, value]) => ['string', 'number', 'boolean'].includes(typeof value));
  return { ...Object.fromEntries(plain), name: error.name, message: error.message };
}

/** Tells the main thread something unasked. */
export function tell(event: unknown): void {
  parentPort?.postMessage({ event });
}
