import type { FeedMethods, Piece } from '../workers/feed-worker';
import type { ThreadOnDemand } from '../workers/rpc';

/** The next piece of a source that is being read; null as soon as nobody wants it, even when the source hangs. */
export async function nextPiece(
  thread: Pick<ThreadOnDemand<FeedMethods>, 'call'>,
  reading: string,
  signal: AbortSignal,
): Promise<Piece | null> {
  if (signal.aborted) return null;
  let leave = (): void => {};
  const aborted = new Promise<null>((resolve) => signal.addEventListener('abort', (leave = () => resolve(null))));
  const next = thread.call('next', [reading]);
  try {
    return await Promise.race([next, aborted]);
  } finally {
    signal.removeEventListener('abort', leave);
    // What it says when nobody listens any more is no failure.
    next.catch(() => {});
  }
}
