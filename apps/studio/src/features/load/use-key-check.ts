import { isCalledKey } from '@yucca/engine/understand';
import { useEffect, useState } from 'react';
import type { KeyCheck } from './check-key';
import type { KeyQuestion } from './check-key.worker';
import type { Inspection } from '@/inspect/inspect-file';

/** How far the look at every row is, 0 to 1, or what it found; null = the preview has seen all rows. */
export type KeyChecking = { share: number } | { check: KeyCheck } | null;

/** Fields that are looked at in all rows: more of them would be remembered at once. */
const MOST_FIELDS = 12;

/** Formats that are not read row by row are known as far as the preview read them. */
const isChecked = ({ isWhole, format }: Extract<Inspection, { ok: true }>): boolean =>
  !isWhole && (format === 'csv' || format === 'json' || format === 'json-lines');

/** Looks at the keys of every row of a file whose beginning the preview has seen, in a thread of its own. */
export function useKeyCheck(file: File, inspection: Extract<Inspection, { ok: true }>): KeyChecking {
  const [state, setState] = useState<KeyChecking>(isChecked(inspection) ? { share: 0 } : null);
  useEffect(() => {
    if (!isChecked(inspection)) return;
    const worker = new Worker(new URL('./check-key.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<{ share: number } | { check: KeyCheck } | { failed: string }>) => {
      // What could not be looked at is told at the end of the load, as ever.
      setState('failed' in data ? null : data);
    };
    worker.onerror = () => setState(null);
    const { format, at, header, charset, gzip, fields } = inspection;
    const question: KeyQuestion = {
      file,
      wanted: { format, at, header, charset, gzip },
      fields: fields.filter(isCalledKey).slice(0, MOST_FIELDS),
    };
    worker.postMessage(question);
    return () => worker.terminate();
  }, [file, inspection]);
  return state;
}
