/** The thread that searches: a worker of the page, so that no keystroke waits for a search. */
import { OfflineCollections } from './collections.ts';
import { filesBelow } from './files.ts';
import type { FromThread, ToThread } from './messages.ts';
import { asProblem } from './problems.ts';

let collections: OfflineCollections | null = null;

const answer = (message: FromThread): void => self.postMessage(message);

self.addEventListener('message', ({ data }: MessageEvent<ToThread>) => {
  if ('collections' in data) {
    collections = new OfflineCollections(data.collections, filesBelow(data.base));
    return;
  }
  const { id, method, args } = data;
  const ask = collections![method].bind(collections) as (...args: unknown[]) => Promise<unknown>;
  ask(...args).then(
    (found) => answer({ id, answer: found }),
    (error: Error) => answer({ id, problem: asProblem(error) }),
  );
});
