import { startTransition, useEffect, useState } from 'react';
import { painted } from '../painted.ts';

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
