'use client';

import { createContext, useContext, useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { DraftStore, type DraftServer, type DraftState } from './draft-store';

/** A draft for the screens inside of a provider: the provider, and what its screens use. */
export interface DraftContext<D extends object> {
  Provider: (props: {
    server: () => DraftServer<D>;
    start: { live: D; draft: D; exists: boolean };
    children: ReactNode;
  }) => ReactNode;
  /** The draft on screen and what can be done with it. */
  useDraft: () => [DraftState<D>, DraftStore<D>];
  /** What can be done with the draft, for what does not show it: drawn no more often than its parent is. */
  useDraftStore: () => DraftStore<D>;
}

export function createDraftContext<D extends object>(): DraftContext<D> {
  const Context = createContext<DraftStore<D> | null>(null);

  /** Holds the draft. Control+Z undoes outside of fields. */
  const Provider: DraftContext<D>['Provider'] = ({ server, start, children }) => {
    const [store] = useState(() => new DraftStore(server(), start));
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
        const typing =
          event.target instanceof HTMLElement && event.target.matches('input, textarea, [contenteditable]');
        if (typing || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return;
        event.preventDefault();
        if (event.shiftKey) store.redo();
        else store.undo();
      };
      window.addEventListener('keydown', onKey);
      return () => window.removeEventListener('keydown', onKey);
    }, [store]);
    return <Context value={store}>{children}</Context>;
  };

  const useDraftStore = (): DraftStore<D> => {
    const store = useContext(Context);
    if (store === null) throw new Error('The draft belongs inside its provider');
    return store;
  };

  const useDraft = (): [DraftState<D>, DraftStore<D>] => {
    const store = useDraftStore();
    return [useSyncExternalStore(store.subscribe, store.snapshot, store.snapshot), store];
  };

  return { Provider, useDraft, useDraftStore };
}
