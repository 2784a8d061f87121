'use client';

import type { FieldProfile, FieldRule } from '@yucca/contract';
import { useState } from 'react';
import { repairWords, RepairDialog } from './repair';

/** What a field costs its owner, and the way to mend it. */
export function Warnings({ collection, field }: { collection: string; field: FieldProfile }) {
  const [repairing, setRepairing] = useState<FieldRule | null>(null);
  // A repair that is done takes its warning away; the dialog that offers to undo it stays.
  if (field.warnings.length === 0 && !repairing) return null;
  return (
    <ul className="grid gap-1">
      {field.warnings.map(({ code, detail, repair, examples }) => (
        <li key={code} className="border-l-2 border-clay pl-2 text-[13px]">
          {detail}{' '}
          {examples.length > 0 && (
            <span className="figures text-xs text-soft">
              {examples
                .slice(0, 3)
                .map((text) => JSON.stringify(text))
                .join(' ')}{' '}
            </span>
          )}
          {repair && (
            <button type="button" className="link min-h-6" onClick={() => setRepairing(repair)}>
              {repairWords(repair.as)} …
            </button>
          )}
        </li>
      ))}
      {repairing && <RepairDialog collection={collection} rule={repairing} onClose={() => setRepairing(null)} />}
    </ul>
  );
}
