import { useEffect, useRef, useState } from 'react';
import { api } from './api';
import { keepAsking } from './keep-asking';

export interface Told<T> {
  /** The newest that came; it stays while another is on its way. */
  value: T | null;
  problem: string | null;
  /** Asks again. */
  again: () => void;
}

/** How long after a failure it is tried again, of what is asked for again and again. */
const AGAIN_MS = 5_000;

/**
 * What the API answers at a path; asked again when the path changes, or what is known of the state it is in. Null asks
 * nothing.
 *
 * @param every how many milliseconds after a value to ask again, while the page is visible; null = only when told to
 */
export function useTold<T>(path: string | null, state = '', every: (value: T) => number | null = never): Told<T> {
  const [value, setValue] = useState<T | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [round, setRound] = useState(0);
  const latest = useRef(every);
  useEffect(() => {
    latest.current = every;
  });
  useEffect(() => {
    if (path === null) return;
    let isOver = false;
    const stop = keepAsking((signal) =>
      api<T>(path, { signal }).then(
        (next) => {
          if (isOver) return null;
          setValue(next);
          setProblem(null);
          return latest.current(next);
        },
        (error: Error) => {
          if (!isOver) setProblem(error.message);
          return latest.current === never ? null : AGAIN_MS;
        },
      ),
    );
    return () => {
      isOver = true;
      stop();
    };
  }, [path, state, round]);
  return { value, problem, again: () => setRound((now) => now + 1) };
}

const never = (): null => null;
