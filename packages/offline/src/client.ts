import type { OfflineManifest, ProblemJson, SearchAnswer, SearchRequest } from '@yucca/contract';
import { ProblemError, type YuccaClient } from '@yucca/kit';
import type { AnswerOf, FromThread, Method, ToThread } from './messages.ts';

/** What of a worker is needed. */
export type Thread = Pick<Worker, 'postMessage' | 'addEventListener'>;

export interface OfflineClient extends YuccaClient {
  record: (collection: string, key: string) => Promise<AnswerOf<'record'>>;
}

/**
 * A client that asks a thread of the page in place of a server. Questions go one after the other; one that nobody waits
 * for any more is not asked. `start` starts the thread, with the first question that needs it.
 */
export function createOfflineClient(manifest: OfflineManifest, base: string, start: () => Thread): OfflineClient {
  const { collections, pages, first } = manifest;
  const waiting = new Map<number, { resolve: (answer: unknown) => void; reject: (error: Error) => void }>();
  let thread: Thread | null = null;
  let failed: ProblemError | null = null;
  let ids = 0;
  let before: Promise<unknown> = Promise.resolve();

  const started = (): Thread => {
    const made = start();
    made.addEventListener('message', ({ data }: MessageEvent<FromThread>) => {
      const { id, answer, problem } = data;
      const asked = waiting.get(id)!;
      waiting.delete(id);
      if (problem) asked.reject(new ProblemError(problem));
      else asked.resolve(answer);
    });
    made.addEventListener('error', () => {
      failed = new ProblemError(problem('The part of the page that searches could not be started.'));
      for (const { reject } of waiting.values()) reject(failed);
      waiting.clear();
    });
    made.postMessage({ collections, base } satisfies ToThread);
    return made;
  };
  const ask = <M extends Method>(method: M, args: unknown[], signal?: AbortSignal): Promise<AnswerOf<M>> => {
    const asked = before.then(
      () =>
        new Promise<unknown>((resolve, reject) => {
          signal?.throwIfAborted();
          if (failed) throw failed;
          thread ??= started();
          const id = ++ids;
          waiting.set(id, { resolve, reject });
          thread.postMessage({ id, method, args } satisfies ToThread);
        }),
    );
    before = asked.catch(() => {});
    return asked.then((answer) => {
      signal?.throwIfAborted();
      return answer as AnswerOf<M>;
    });
  };
  const find = async (collection: string, request: SearchRequest, signal?: AbortSignal): Promise<SearchAnswer> => {
    requireOne(collections, collection);
    // The first answer came along: the index need not be there for it.
    if (collection === first.collection && sameRequest(request, first.request)) return first.answer;
    return ask('search', [collection, request], signal);
  };
  return {
    search: find,
    multiSearch: (queries, signal) =>
      Promise.all(
        queries.map(({ collection, ...request }) =>
          find(collection, request, signal).catch((error: unknown) => {
            if (error instanceof ProblemError) return error.problem;
            throw error;
          }),
        ),
      ),
    async facetValues(collection, facet, q, within, signal) {
      requireOne(collections, collection);
      return ask('facetValues', [collection, facet, q, within], signal);
    },
    async suggest(collection, q, size, signal, filter) {
      requireOne(collections, collection);
      return ask('suggest', [collection, q, size, filter], signal);
    },
    page: (slug) => Promise.resolve(requireOne(pages, slug)),
    async record(collection, key) {
      requireOne(collections, collection);
      return ask('record', [collection, key]);
    },
  };
}

const problem = (detail: string, status = 503): ProblemJson => ({
  type: `urn:yucca:problem:${status === 404 ? 'not-found' : 'unavailable'}`,
  title: status === 404 ? 'There is nothing of that name' : 'The search does not work here',
  status,
  detail,
});

/** What has a name. Throws a ProblemError when nothing has. */
function requireOne<T>(all: Readonly<Record<string, T>>, name: string): T {
  if (!Object.hasOwn(all, name)) throw new ProblemError(problem(`There is no “${name}” in this folder.`, 404));
  return all[name]!;
}

/** Whether two requests ask for the same; what is left out is what is usual. */
function sameRequest(a: SearchRequest, b: SearchRequest): boolean {
  const told = (request: SearchRequest): string => {
    const whole = Object.entries({ page: 1, q: '', ...request }).filter(([name]) => name !== 'record');
    return JSON.stringify(whole.sort(([one], [other]) => (one < other ? -1 : 1)));
  };
  return told(a) === told(b);
}
