import { useEffect, useState } from 'react';
import { api } from './api';

export interface Told<T> {
  /** The newest that came; it stays while another is on its way. */
  value: T | null;
  problem: string | null;
  /** Asks again. */
  again: () => void;
}

/**
 * What the API answers at a path; asked again when the path changes, or what is known of the state it is in. Null asks
 * nothing.
 */
export function useTold<T>(path: string | null, state = ''): Told<T> {
  const [value, setValue] = useState<T | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [round, setRound] = useState(0);
  useEffect(() => {
    if (path === null) return;
    const gone = new AbortController();
    api<T>(path, { signal: gone.signal }).then(
      (next) => {
        setValue(next);
        setProblem(null);
      },
      (error: Error) => {
        if (!gone.signal.aborted) setProblem(error.message);
      },
    );
    return () => gone.abort();
  }, [path, state, round]);
  return { value, problem, again: () => setRound((now) => now + 1) };
}
