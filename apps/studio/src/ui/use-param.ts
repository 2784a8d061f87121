'use client';

import { useCallback, useSyncExternalStore } from 'react';

const CHANGED = 'yucca:address';

function subscribe(listener: () => void): () => void {
  window.addEventListener('popstate', listener);
  window.addEventListener(CHANGED, listener);
  return () => {
    window.removeEventListener('popstate', listener);
    window.removeEventListener(CHANGED, listener);
  };
}

/**
 * One parameter of the address as state, so that a reload, Back and a sent link find it again. Setting replaces the
 * current entry of the history, or pushes a new one.
 */
export function useParam(name: string): [string, (value: string, how?: 'replace' | 'push') => void] {
  const value = useSyncExternalStore(
    subscribe,
    () => new URLSearchParams(window.location.search).get(name) ?? '',
    () => '',
  );
  const set = useCallback(
    (next: string, how: 'replace' | 'push' = 'replace') => {
      const params = new URLSearchParams(window.location.search);
      if (next === '') params.delete(name);
      else params.set(name, next);
      const search = params.toString();
      const address = window.location.pathname + (search ? `?${search}` : '');
      if (how === 'push') window.history.pushState(null, '', address);
      else window.history.replaceState(null, '', address);
      window.dispatchEvent(new Event(CHANGED));
    },
    [name],
  );
  return [value, set];
}
