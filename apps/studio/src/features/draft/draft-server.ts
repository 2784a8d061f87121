import { ProblemError } from '@yucca/kit';
import { api } from '@/ui/api';
import { DraftChanged, type DraftServer } from './draft-store';

export interface DraftStart<D extends object> {
  live: D;
  draft: D;
  exists: boolean;
  /** What the server tells the draft by. */
  tag: string;
}

export interface DraftRoutes<D extends object> {
  /** Where the draft is saved, thrown away and published: `{path}/draft`, `{path}/publish`. */
  path: string;
  /** Reads the draft. */
  read: (onAnswer: (response: Response) => void) => Promise<D>;
  cost?: DraftServer<D>['cost'];
}

/** The server's part in a draft: every save says which draft it was made from, so that no other one is lost. */
export function draftServer<D extends object>(
  { path, read: ask, cost }: DraftRoutes<D>,
  { draft, tag }: DraftStart<D>,
): DraftServer<D> {
  // What the server tells each draft by that has been read or saved here.
  const tags = new WeakMap<D, string>([[draft, tag]]);
  const tagged = async (asked: (onAnswer: (response: Response) => void) => Promise<D>, saved?: D) => {
    let found = '';
    const answer = await asked((response) => (found = response.headers.get('ETag') ?? ''));
    tags.set(saved ?? answer, found);
    return answer;
  };
  const read = () => tagged(ask);
  return {
    ...(cost && { cost }),
    async save(document, base) {
      const headers = { 'If-Match': tags.get(base) ?? '' };
      try {
        await tagged(
          (onAnswer) => api(`${path}/draft?wait=true`, { method: 'PUT', json: document, headers, onAnswer }),
          document,
        );
      } catch (error) {
        if (error instanceof ProblemError && error.problem.status === 412) throw new DraftChanged();
        throw error;
      }
    },
    read,
    async discard() {
      await api<void>(`${path}/draft`, { method: 'DELETE' });
      return read();
    },
    publish: (note) => api<{ version: number }>(`${path}/publish`, { method: 'POST', json: { note } }),
  };
}
