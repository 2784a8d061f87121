import { startTransition, useEffect, useState } from 'react';

/** The longest that anything waits for a frame, in milliseconds: a tab that nobody sees draws none. */
const MOST_MS = 100;

/**
 * Resolves once the browser has drawn what is there now. The frame after the next one is what tells: the next one only
 * lays out and hands over, and whatever runs then takes the processor from those who draw.
 */
export const painted = (): Promise<void> =>
  new Promise((resolve) => {
    requestAnimationFrame(() => requestAnimationFrame(() => resolve()));
    setTimeout(resolve, MOST_MS);
  });

/**
 * A value for what can wait: as it was, until the browser has drawn what came at once with the newest one. React's own
 * deferred value is worked on before the frame is on screen, which holds that frame up on a slow device. What comes
 * after nothing is there at once: a frame later it would push aside what somebody has begun to read.
 */
export function usePainted<T>(value: T): T {
  const [shown, setShown] = useState(value);
  useEffect(() => {
    let isNewest = true;
    void painted().then(() => {
      if (isNewest) startTransition(() => setShown(value));
    });
    return () => {
      isNewest = false;
    };
  }, [value]);
  return shown ?? value;
}
