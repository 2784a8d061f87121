import { useEffect, type RefObject } from 'react';

/** `/` puts the cursor into the probe from anywhere but another field. */
export function useProbeKey(input: RefObject<HTMLInputElement | null>): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const typing = event.target instanceof HTMLElement && event.target.matches('input, textarea, select');
      if (event.key !== '/' || typing || event.metaKey || event.ctrlKey) return;
      event.preventDefault();
      input.current?.select();
      input.current?.focus();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [input]);
}
