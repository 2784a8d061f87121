import { useEffect, useState } from 'react';

/** True once something has gone on for longer than a person fails to notice. */
export function useSlow(active: boolean, afterMs = 200): boolean {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    if (!active) return;
    const timer = setTimeout(() => setSlow(true), afterMs);
    return () => {
      clearTimeout(timer);
      setSlow(false);
    };
  }, [active, afterMs]);
  return slow && active;
}
