'use client';

import type { TuningDocument } from '@yucca/contract';
import { createContext, useContext, useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { api } from '@/ui/api';
import { DraftStore, type DraftCost, type DraftState } from './draft-store';

const DraftContext = createContext<DraftStore | null>(null);

export interface DraftStart {
  live: TuningDocument;
  draft: TuningDocument;
  exists: boolean;
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
  const [store] = useState(() => {
    const path = `/collections/${collection}/tuning`;
    return new DraftStore(
      {
        cost: (document) => api<DraftCost>(`${path}/draft/cost`, { method: 'POST', json: document }),
        save: (document) => api<TuningDocument>(`${path}/draft`, { method: 'PUT', json: document }),
        discard: () => api<void>(`${path}/draft`, { method: 'DELETE' }),
        publish: (note) => api<{ version: number }>(`${path}/publish`, { method: 'POST', json: { note } }),
      },
      start,
    );
  });
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
  const store = useContext(DraftContext);
  if (store === null) throw new Error('useDraft() belongs inside a DraftProvider');
  return [useSyncExternalStore(store.subscribe, store.snapshot, store.snapshot), store];
}
