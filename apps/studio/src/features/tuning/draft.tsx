'use client';

import type { TuningDocument } from '@yucca/contract';
import { createContext, useContext, useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { api } from '@/ui/api';
import { ProblemError } from '@yucca/kit';
import { DraftChanged, DraftStore, type DraftCost, type DraftServer, type DraftState } from './draft-store';

const DraftContext = createContext<DraftStore | null>(null);

export interface DraftStart {
  live: TuningDocument;
  draft: TuningDocument;
  exists: boolean;
  /** What the server tells the draft by. */
  tag: string;
}

/** The server's part in a draft: every save says which draft it was made from, so that no other one is lost. */
function serverOf(collection: string, { draft, tag }: DraftStart): DraftServer {
  const path = `/collections/${collection}/tuning`;
  // What the server tells each draft by that has been read or saved here.
  const tags = new WeakMap<TuningDocument, string>([[draft, tag]]);
  const tagged = async (
    ask: (onAnswer: (response: Response) => void) => Promise<TuningDocument>,
    saved?: TuningDocument,
  ) => {
    let found = '';
    const answer = await ask((response) => (found = response.headers.get('ETag') ?? ''));
    tags.set(saved ?? answer, found);
    return answer;
  };
  const read = () => tagged((onAnswer) => api<TuningDocument>(`${path}?version=draft`, { onAnswer }));
  return {
    cost: (document) => api<DraftCost>(`${path}/draft/cost`, { method: 'POST', json: document }),
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

/** Holds the draft of a collection's tuning for the screens inside. Control+Z undoes outside of fields. */
export function DraftProvider({
  collection,
  start,
  children,
}: {
  collection: string;
  start: DraftStart;
  children: ReactNode;
}) {
  const [store] = useState(() => new DraftStore(serverOf(collection, start), start));
  // Another window may have gone on with the draft meanwhile.
  useEffect(() => {
    const onSeen = (): void => {
      if (document.visibilityState === 'visible') void store.catchUp();
    };
    document.addEventListener('visibilitychange', onSeen);
    window.addEventListener('focus', onSeen);
    return () => {
      document.removeEventListener('visibilitychange', onSeen);
      window.removeEventListener('focus', onSeen);
    };
  }, [store]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, [contenteditable]');
      if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
      event.preventDefault();
      if (event.shiftKey) store.redo();
      else store.undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [store]);
  return <DraftContext value={store}>{children}</DraftContext>;
}

/** The draft on screen and what can be done with it. */
export function useDraft(): [DraftState, DraftStore] {
  const store = useDraftStore();
  return [useSyncExternalStore(store.subscribe, store.snapshot, store.snapshot), store];
}

/** What can be done with the draft, for what does not show it: drawn no more often than its parent is. */
export function useDraftStore(): DraftStore {
  const store = useContext(DraftContext);
  if (store === null) throw new Error('The draft belongs inside a DraftProvider');
  return store;
}
