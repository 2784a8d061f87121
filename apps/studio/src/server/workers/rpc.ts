import { parentPort, type Transferable, type Worker } from 'node:worker_threads';

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

/** The calling side of a worker thread. */
export class RemoteThread<M extends Methods> {
  readonly #worker: Worker;
  readonly #open = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  #next = 1;
  #ending = false;

  /** `onEvent` receives what the thread says unasked; `onDeath` is told when it ends without being asked to. */
  constructor(
    worker: Worker,
    onEvent: (event: unknown) => void = () => {},
    onDeath: (error: Error) => void = () => {},
  ) {
    this.#worker = worker;
    worker.on('message', (message: Reply) => {
      if ('event' in message) return onEvent(message.event);
      const call = this.#open.get(message.reply);
      this.#open.delete(message.reply);
      if ('error' in message) call?.reject(new RemoteError(message.error));
      else call?.resolve(message.value);
    });
    const end = (error: Error): void => {
      for (const { reject } of this.#open.values()) reject(error);
      this.#open.clear();
      if (!this.#ending) onDeath(error);
    };
    worker.on('error', end);
    worker.on('exit', (code) => end(new Error(`the thread ended with code ${code}`)));
  }

  call<K extends keyof M & string>(
    method: K,
    args: Parameters<M[K]>,
    transfer: Transferable[] = [],
  ): Promise<Awaited<ReturnType<M[K]>>> {
    return new Promise((resolve, reject) => {
      const call = this.#next++;
      this.#open.set(call, { resolve: resolve as (value: unknown) => void, reject });
      this.#worker.postMessage({ call, method, args } satisfies Call, transfer);
    });
  }

  /** A call nobody waits for. Should the thread die over it, `onDeath` is told. */
  send<K extends keyof M & string>(method: K, args: Parameters<M[K]>): void {
    this.call(method, args).catch(() => {});
  }

  /** Ends the thread; calls that are under way fail. */
  terminate(): Promise<number> {
    this.#ending = true;
    return this.#worker.terminate();
  }
}

/**
 * A thread that is there while it has work and a moment longer. Building an index takes several times its size for a
 * while; a thread that ends gives that back at once, where one that waits would keep it until it next cleans up.
 */
export class ThreadOnDemand<M extends Methods> {
  readonly #start: () => RemoteThread<M>;
  readonly #restMs: number;
  #thread: RemoteThread<M> | null = null;
  #calls = 0;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** `restMs`: how long it waits for more work. */
  constructor(start: () => RemoteThread<M>, restMs = 5_000) {
    this.#start = start;
    this.#restMs = restMs;
  }

  async call<K extends keyof M & string>(method: K, args: Parameters<M[K]>): Promise<Awaited<ReturnType<M[K]>>> {
    clearTimeout(this.#timer);
    this.#calls++;
    this.#thread ??= this.#start();
    try {
      return await this.#thread.call(method, args);
    } finally {
      if (--this.#calls === 0) this.#timer = setTimeout(() => void this.terminate(), this.#restMs).unref();
    }
  }

  async terminate(): Promise<void> {
    clearTimeout(this.#timer);
    const thread = this.#thread;
    this.#thread = null;
    await thread?.terminate();
  }
}

/** The answering side, inside the worker thread. */
export function serve(methods: Methods): void {
  const port = parentPort;
  if (port === null) throw new Error('serve() belongs into a worker thread');
  port.on('message', async ({ call, method, args }: Call) => {
    try {
      port.postMessage({ reply: call, value: await methods[method]!(...args) });
    } catch (error) {
      const { name, message } = error as Error;
      port.postMessage({ reply: call, error: { name, message, ...(error as object) } });
    }
  });
}

/** Tells the main thread something unasked. */
export function tell(event: unknown): void {
  parentPort?.postMessage({ event });
}
