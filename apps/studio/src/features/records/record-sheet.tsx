'use client';

import { recordAddress, type RecordJson, type Task } from '@yucca/contract';
import clsx from 'clsx';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { Dialog, Tabs } from 'radix-ui';
import { useEffect, useState } from 'react';
import { cellText } from '@/features/load/sample-table';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { mergePatchBetween } from './merge-patch';
import { RecordForm } from './record-form';

// The editor is large and few sheets are edited as JSON.
const JsonEditor = dynamic(() => import('./json-editor').then((module) => module.JsonEditor), { ssr: false });

const pretty = (record: RecordJson): string => JSON.stringify(record, null, 2);

function parsed(text: string): { record: RecordJson } | { problem: string } {
  try {
    const value: unknown = JSON.parse(text);
    if (value === null || typeof value !== 'object' || Array.isArray(value))
      return { problem: 'A record is a JSON object: { … }.' };
    return { record: value as RecordJson };
  } catch (error) {
    return { problem: `This is not JSON yet: ${(error as Error).message}.` };
  }
}

export interface RecordSheetProps {
  collection: string;
  keyField?: string;
  /** The record to show; null for a new one. */
  id: string | null;
  /** What a new record begins with. */
  start?: RecordJson;
  onClose: () => void;
  onOpen?: (id: string) => void;
  /** Begins a new record like this one. */
  onCopy?: (record: RecordJson) => void;
}

/** One record, as a form or as JSON: to read, change, copy or delete; or a new one. */
export function RecordSheet({ collection, keyField = 'id', id, start, onClose, onOpen, onCopy }: RecordSheetProps) {
  const path = recordAddress(collection, id ?? '');
  const [stored, setStored] = useState<RecordJson | null>(null);
  const [text, setText] = useState<string | null>(id === null ? pretty(start ?? { [keyField]: '' }) : null);
  const [problem, setProblem] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const router = useRouter();

  useEffect(() => {
    if (id === null) return;
    api<{ record: RecordJson }>(path).then(
      ({ record }) => {
        setStored(record);
        setText(pretty(record));
      },
      (error: Error) => setProblem(error.message),
    );
  }, [path, id]);

  const state = text === null ? null : parsed(text);
  const record = state && 'record' in state ? state.record : null;
  const patch = stored !== null && record !== null ? mergePatchBetween(stored, record) : undefined;
  const changed = text !== null && (stored === null || text !== pretty(stored));

  const write = async (work: () => Promise<unknown>, done: string | null): Promise<void> => {
    setProblem(null);
    setNote(null);
    try {
      await work();
      setNote(done);
      router.refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const take = ({ record: saved }: { record: RecordJson }): void => {
    setStored(saved);
    setText(pretty(saved));
  };
  const save = (): Promise<void> =>
    write(async () => {
      const method = patch === undefined ? 'PUT' : 'PATCH';
      take(await api<{ record: RecordJson }>(path, { method, json: patch ?? record }));
    }, 'Saved, and searchable already.');
  const insert = (): Promise<void> =>
    write(async () => {
      const { task } = await api<{ task: Task }>(`/collections/${collection}/records?mode=insert&wait=true`, {
        method: 'POST',
        json: record,
      });
      if (task.failed > 0) throw new Error(`Not stored: ${task.errors[0]?.detail ?? 'the record is not valid'}.`);
      onOpen?.(cellText(record?.[keyField]));
    }, null);
  const remove = (): Promise<void> =>
    write(async () => {
      await api(path, { method: 'DELETE' });
      setText(null);
    }, 'Deleted.');
  const restore = (): Promise<void> =>
    write(async () => take(await api<{ record: RecordJson }>(path, { method: 'PUT', json: stored })), 'Back again.');

  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/30" />
        <Dialog.Content
          className="fixed inset-y-0 right-0 z-30 flex w-[600px] flex-col border-l border-line bg-paper"
          aria-describedby={undefined}
        >
          <Tabs.Root defaultValue="form" className="flex min-h-0 flex-1 flex-col">
            <header className="flex items-center gap-3 border-b border-line px-5 py-3">
              <Dialog.Title className="figures min-w-0 truncate text-[17px] font-medium">
                {id ?? 'New record'}
              </Dialog.Title>
              <Tabs.List aria-label="How to show the record" className="ml-auto flex rounded-md border border-line">
                {['form', 'JSON'].map((name) => (
                  <Tabs.Trigger
                    key={name}
                    value={name.toLowerCase()}
                    className="min-h-7 px-3 data-[state=active]:bg-ink data-[state=active]:text-paper"
                  >
                    {name === 'form' ? 'Form' : name}
                  </Tabs.Trigger>
                ))}
              </Tabs.List>
              <Dialog.Close asChild>
                <Button>Close</Button>
              </Dialog.Close>
            </header>
            <div className="flex min-h-0 flex-1 flex-col px-5 py-4">
              {text !== null && (
                <>
                  <Tabs.Content value="form" className="flex min-h-0 flex-1 flex-col data-[state=inactive]:hidden">
                    {record === null ? (
                      <p className="text-madder">
                        {state && 'problem' in state && state.problem} Mend it under JSON first.
                      </p>
                    ) : (
                      <RecordForm
                        record={record}
                        keyField={keyField}
                        isNew={id === null}
                        onRecord={(next) => setText(pretty(next))}
                      />
                    )}
                  </Tabs.Content>
                  <Tabs.Content value="json" className="flex min-h-0 flex-1 flex-col data-[state=inactive]:hidden">
                    <JsonEditor text={text} label="The record as JSON" onText={setText} />
                    {state && 'problem' in state && <p className="mt-2 text-madder">{state.problem}</p>}
                  </Tabs.Content>
                </>
              )}
              {changed && stored !== null && record !== null && <PatchPreview patch={patch} />}
              {problem && (
                <p role="alert" className="mt-3 text-madder">
                  {problem}
                </p>
              )}
              <p role="status" className={clsx('text-agave', note && 'mt-3')}>
                {note}
              </p>
            </div>
          </Tabs.Root>
          <footer className="flex gap-3 border-t border-line px-5 py-3">
            {id === null ? (
              <Button kind="primary" disabled={record === null} onClick={() => void insert()}>
                Add record
              </Button>
            ) : text !== null ? (
              <>
                <Button kind="primary" disabled={!changed || record === null} onClick={() => void save()}>
                  Save record
                </Button>
                {onCopy && record !== null && <Button onClick={() => onCopy(record)}>Copy as new</Button>}
                <Button kind="danger" className="ml-auto" onClick={() => void remove()}>
                  Delete record
                </Button>
              </>
            ) : (
              stored !== null && <Button onClick={() => void restore()}>Undo delete</Button>
            )}
          </footer>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** What saving sends: only what has changed, so that a change made elsewhere meanwhile is not lost. */
function PatchPreview({ patch }: { patch: unknown }) {
  return (
    <details className="mt-3 shrink-0 rounded-md border border-line bg-sunk px-3 py-1.5 text-[13px]" open>
      <summary className="text-soft">
        {patch === undefined ? 'Saved as a whole: a merge patch cannot write null' : 'What is sent (JSON Merge Patch)'}
      </summary>
      {patch !== undefined && (
        <pre className="figures mt-1 max-h-28 overflow-auto whitespace-pre-wrap">{JSON.stringify(patch, null, 2)}</pre>
      )}
    </details>
  );
}
