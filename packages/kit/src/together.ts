import { QUERIES_PER_CALL } from '@yucca/contract';

/** Something that is asked for, and who waits for it. */
interface Waiting<Q, A> {
  question: Q;
  signal: AbortSignal | undefined;
  resolve: (answer: A) => void;
  reject: (error: unknown) => void;
}

/**
 * Puts together what is asked for in one moment (a keystroke asks for results, completions and records), so that it is
 * one request. Who gives up is left out, and the request is cancelled when nobody waits any more.
 *
 * `send` asks several questions and answers them in their order; its `signal` fires when all askers have gone.
 */
export function together<Q, A>(send: (questions: Q[], signal: AbortSignal) => Promise<readonly A[]>) {
  let waiting: Waiting<Q, A>[] = [];
  const ask = async (some: Waiting<Q, A>[]): Promise<void> => {
    const line = new AbortController();
    let left = some.length;
    for (const { signal } of some) signal?.addEventListener('abort', () => --left === 0 && line.abort());
    try {
      const answers = await send(
        some.map(({ question }) => question),
        line.signal,
      );
      some.forEach(({ resolve }, i) => resolve(answers[i]!));
    } catch (error) {
      some.forEach(({ reject }) => reject(error));
    }
  };
  const flush = (): void => {
    const all = waiting.filter(({ signal }) => !signal?.aborted);
    waiting = [];
    while (all.length > 0) void ask(all.splice(0, QUERIES_PER_CALL));
  };
  return (question: Q, signal?: AbortSignal): Promise<A> =>
    new Promise((resolve, reject) => {
      const giveUp = (): void => reject(signal!.reason as Error);
      if (signal?.aborted) return giveUp();
      signal?.addEventListener('abort', giveUp);
      if (waiting.push({ question, signal, resolve, reject }) === 1) void Promise.resolve().then(flush);
    });
}
