import { useEffect, useRef, useState } from 'react';

/**
 * A value that is fetched again every so often while the page is visible. Failures keep the last value: the next round
 * may succeed.
 */
export function usePolled<T>(load: () => Promise<T>, first: T, everyMs: number): T {
  const [value, setValue] = useState(first);
  const latest = useRef(load);
  useEffect(() => {
    latest.current = load;
  });
  useEffect(() => {
    let live = true;
    const round = (): void => {
      if (document.visibilityState !== 'visible') return;
      latest.current().then(
        (next) => live && setValue(next),
        () => {},
      );
    };
    round();
    const timer = setInterval(round, everyMs);
    return () => {
      live = false;
      clearInterval(timer);
    };
  }, [everyMs]);
  return value;
}
