'use client';

import type { RecordJson } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';

/** One record as JSON, to read, change or delete. */
export function RecordSheet({ collection, id, onClose }: { collection: string; id: string; onClose: () => void }) {
  const path = `/collections/${collection}/records/${encodeURIComponent(id)}`;
  const [stored, setStored] = useState<RecordJson | null>(null);
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [note, setNote] = useState<string | null>(null);
  const router = useRouter();

  useEffect(() => {
    api<{ record: RecordJson }>(path).then(
      ({ record }) => {
        setStored(record);
        setText(JSON.stringify(record, null, 2));
      },
      (error: Error) => setProblem(error.message),
    );
  }, [path]);

  const write = async (work: () => Promise<unknown>, done: string | null): Promise<void> => {
    setProblem(null);
    try {
      await work();
      setNote(done);
      router.refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };

  const save = (): Promise<void> =>
    write(async () => {
      const { record } = await api<{ record: RecordJson }>(path, { method: 'PUT', json: parse(text!) });
      setStored(record);
      setText(JSON.stringify(record, null, 2));
    }, 'Saved, and searchable already.');
  const remove = (): Promise<void> =>
    write(async () => {
      await api(path, { method: 'DELETE' });
      setText(null);
    }, 'Deleted.');
  const restore = (): Promise<void> =>
    write(async () => {
      await api(path, { method: 'PUT', json: stored });
      setText(JSON.stringify(stored, null, 2));
    }, 'Back again.');

  const changed = stored !== null && text !== null && text !== JSON.stringify(stored, null, 2);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/30" />
        <Dialog.Content
          className="fixed inset-y-0 right-0 z-30 flex w-[560px] flex-col border-l border-line bg-paper"
          aria-describedby={undefined}
        >
          <header className="flex items-center gap-3 border-b border-line px-5 py-3">
            <Dialog.Title className="figures min-w-0 truncate text-[17px] font-medium">{id}</Dialog.Title>
            <Dialog.Close asChild>
              <Button className="ml-auto">Close</Button>
            </Dialog.Close>
          </header>
          <div className="flex min-h-0 flex-1 flex-col p-5">
            {text !== null && (
              <textarea
                aria-label="The record as JSON"
                spellCheck={false}
                className="field figures min-h-0 flex-1 resize-none text-[13px] leading-5"
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
            )}
            {problem && (
              <p role="alert" className="mt-3 text-madder">
                {problem}
              </p>
            )}
            <p role="status" className="mt-3 min-h-5 text-agave">
              {note}
            </p>
          </div>
          <footer className="flex gap-3 border-t border-line px-5 py-3">
            {text !== null && (
              <>
                <Button kind="primary" disabled={!changed} onClick={() => void save()}>
                  Save record
                </Button>
                <Button kind="danger" className="ml-auto" onClick={() => void remove()}>
                  Delete record
                </Button>
              </>
            )}
            {text === null && stored !== null && <Button onClick={() => void restore()}>Undo delete</Button>}
          </footer>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Error(`This is not JSON yet: ${(error as Error).message}. Nothing was saved.`, { cause: error });
  }
}
