'use client';

import type { FieldRule, FieldRules, RuleEffect, Task } from '@yucca/contract';
import { Dialog } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { cellText } from '@/features/load/sample-table';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { count, counted } from '@/ui/format';

const READ_AS: Record<FieldRule['as'], string> = {
  number: 'a number',
  boolean: 'yes or no',
  date: 'a date',
  list: 'a list',
  json: 'what its JSON says',
  text: 'text',
  position: 'a position',
};

/** "Read as a number", and the like. */
export const repairWords = (as: FieldRule['as']): string => `Read as ${READ_AS[as]}`;

/** Sets a collection's rules and brings the records in line; resolves when that is done. */
async function applyRules(collection: string, rules: FieldRule[]): Promise<Task> {
  const path = `/collections/${collection}/field-rules?apply=true&wait=true`;
  const { task } = await api<{ task: Task }>(path, { method: 'PUT', json: { rules } });
  return task;
}

/** Shows what a rule would change before and after, and keeps it when told so. */
export function RepairDialog({
  collection,
  rule,
  onClose,
}: {
  collection: string;
  rule: FieldRule;
  onClose: () => void;
}) {
  const router = useRouter();
  const [effect, setEffect] = useState<RuleEffect | null>(null);
  const [before, setBefore] = useState<FieldRule[] | null>(null);
  const [done, setDone] = useState<Task | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);

  useEffect(() => {
    let live = true;
    Promise.all([
      api<RuleEffect>(`/collections/${collection}/field-rules/preview`, { method: 'POST', json: rule }),
      api<FieldRules>(`/collections/${collection}/field-rules`),
    ]).then(
      ([found, { rules }]) => {
        if (!live) return;
        setEffect(found);
        setBefore(rules);
      },
      (error: Error) => live && setProblem(error.message),
    );
    return () => {
      live = false;
    };
  }, [collection, rule]);

  const run = async (rules: FieldRule[], then: (task: Task) => void): Promise<void> => {
    setBusy(true);
    setProblem(null);
    try {
      then(await applyRules(collection, rules));
      router.refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
    setBusy(false);
  };
  const others = (before ?? []).filter(({ field }) => field !== rule.field);

  return (
    <Dialog.Root open onOpenChange={(open) => !open && !busy && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content className="fixed top-[10vh] left-1/2 z-30 flex max-h-[80vh] w-[640px] -translate-x-1/2 flex-col rounded-md border border-line bg-paper p-6">
          <Dialog.Title className="mb-1 text-[20px] leading-7">
            {repairWords(rule.as)}: <span className="figures">{rule.field}</span>
          </Dialog.Title>
          <Dialog.Description className="mb-4 text-soft">
            A rule reads the records that are here and every later load. What cannot be read stays as it came, and
            undoing the rule brings the old values back.
          </Dialog.Description>
          {effect === null && problem === null && <p role="status">Looking through the records …</p>}
          {effect && <Effect effect={effect} />}
          {problem && (
            <p role="alert" className="mt-3 text-madder">
              {problem}
            </p>
          )}
          {done && (
            <p role="status" className="mt-3 font-medium text-agave">
              {done.state === 'done'
                ? `Done: ${counted(done.changed ?? 0, 'record')} changed, and searchable already.`
                : done.errors[0]?.detail}
            </p>
          )}
          <div className="mt-5 flex gap-3">
            {done === null ? (
              <>
                <Button
                  kind="primary"
                  disabled={effect === null || before === null || busy}
                  onClick={() => void run([...others, rule], setDone)}
                >
                  {busy ? 'Changing …' : `${repairWords(rule.as)} in ${counted(effect?.changes ?? 0, 'record')}`}
                </Button>
                <Button disabled={busy} onClick={onClose}>
                  Cancel
                </Button>
              </>
            ) : (
              <>
                <Button kind="primary" disabled={busy} onClick={onClose}>
                  Close
                </Button>
                <Button disabled={busy} onClick={() => void run(before ?? [], onClose)}>
                  {busy ? 'Changing …' : 'Undo'}
                </Button>
              </>
            )}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Effect({ effect: { changes, unreadable, holding, examples } }: { effect: RuleEffect }) {
  return (
    <div className="min-h-0 overflow-y-auto" tabIndex={0} role="region" aria-label="What it would do">
      <p className="mb-2">
        <strong className="font-medium">{count(changes)}</strong> of {counted(holding, 'record')} would change
        {unreadable > 0 && `, ${count(unreadable)} cannot be read so and stay`}.
      </p>
      <table className="w-full text-[13px]">
        <thead className="bg-sunk text-left">
          <tr>
            {['Record', 'Before', 'After'].map((name) => (
              <th key={name} scope="col" className="px-3 py-1.5 font-medium">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="figures">
          {examples.map(({ id, before, after }) => (
            <tr key={`${id}${cellText(before)}`} className="border-t border-line">
              <td className="max-w-40 truncate px-3 py-1.5">{id}</td>
              <td className="max-w-56 truncate px-3 py-1.5">{JSON.stringify(before)}</td>
              <td className="max-w-56 truncate px-3 py-1.5">
                {after === null ? <span className="text-madder">stays</span> : JSON.stringify(after)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
