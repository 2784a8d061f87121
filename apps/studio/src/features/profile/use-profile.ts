import type { Profile } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';

export interface ProfileState {
  /** The newest there is; it stays while a newer one is made. */
  profile: Profile | null;
  problem: string | null;
}

/** What is in a collection's data; asked for again when the records have changed. */
export function useProfile(collection: string, generation: number, first: Profile | null = null): ProfileState {
  const [state, setState] = useState<ProfileState>({ profile: first, problem: null });
  useEffect(() => {
    const gone = new AbortController();
    api<Profile>(`/collections/${collection}/profile`, { signal: gone.signal }).then(
      (profile) => setState({ profile, problem: null }),
      (error: Error) => (gone.signal.aborted ? undefined : setState((now) => ({ ...now, problem: error.message }))),
    );
    return () => gone.abort();
  }, [collection, generation]);
  return state;
}
