/** A question without an answer for so long is given up; the next round asks again. */
const LONGEST_MS = 30_000;

/**
 * Asks at once, and again while the page is visible; when it becomes visible, at once. A round begins after the one
 * before has ended: a slow server is never asked twice at a time, an answer that takes longer than the wait is not
 * thrown away, and the few connections that a browser opens to one server stay free for what a person does.
 *
 * @param ask asks and tells in how many milliseconds to ask again, null = no more; its failures are its own business
 * @returns what ends it, and whatever is on its way
 */
export function keepAsking(ask: (signal: AbortSignal) => Promise<number | null>): () => void {
  const ended = new AbortController();
  let isOnItsWay = false;
  let isWanted = true;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const round = async (): Promise<void> => {
    clearTimeout(timer);
    isOnItsWay = true;
    const late = new AbortController();
    const limit = setTimeout(() => late.abort(new Error('The server has not answered for 30 seconds.')), LONGEST_MS);
    const wait = await ask(AbortSignal.any([ended.signal, late.signal]));
    clearTimeout(limit);
    isOnItsWay = false;
    isWanted = wait !== null;
    if (wait !== null && !ended.signal.aborted) timer = setTimeout(look, wait);
  };
  const look = (): void => {
    if (!isOnItsWay && isWanted && document.visibilityState === 'visible') void round();
  };
  void round();
  document.addEventListener('visibilitychange', look);
  return () => {
    ended.abort();
    clearTimeout(timer);
    document.removeEventListener('visibilitychange', look);
  };
}
