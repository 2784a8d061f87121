import { useEffect, useRef, useState } from 'react';
import { keepAsking } from './keep-asking';

/**
 * A value that is fetched again so long after it came, while the page is visible. Failures keep the last value: the
 * next round may succeed.
 */
export function usePolled<T>(load: (signal: AbortSignal) => Promise<T>, first: T, everyMs: number): T {
  const [value, setValue] = useState(first);
  const latest = useRef(load);
  useEffect(() => {
    latest.current = load;
  });
  useEffect(
    () =>
      keepAsking((signal) =>
        latest.current(signal).then(
          (next) => {
            setValue(next);
            return everyMs;
          },
          () => everyMs,
        ),
      ),
    [everyMs],
  );
  return value;
}
