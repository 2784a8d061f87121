'use client';

import { isName, type Collection, type Task } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { bytes } from '@/ui/format';
import { nameFor } from '@/inspect/inspect-file';
import { FailedLines, TaskErrors } from './load-ended';
import { LoadProgress } from './load-progress';
import { newTaskId } from '@/ui/task-id';
import { watchTask } from '@/ui/watch-task';

interface Listed {
  allowed: boolean;
  items: { path: string; bytes: number }[];
}

/** Loads files that lie on the server's own machine, in the folder its owner allows. Nothing where none is allowed. */
export function ServerFiles() {
  const [listed, setListed] = useState<Listed | null>(null);
  const [open, setOpen] = useState(false);
  useEffect(() => {
    api<Listed>('/load-files').then(setListed, () => {});
  }, []);
  if (!listed?.allowed) return null;
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button>Load from the server …</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content className="fixed top-[10vh] left-1/2 z-30 flex max-h-[80vh] w-[680px] -translate-x-1/2 flex-col rounded-md border border-line bg-paper p-6">
          <Dialog.Title className="mb-1 text-[20px] leading-7">Files on the server’s machine</Dialog.Title>
          <Dialog.Description className="mb-4 text-soft">
            From the folder that Yucca was started with (YUCCA_LOAD_DIR). They are read where they lie, whatever their
            size.
          </Dialog.Description>
          {listed.items.length === 0 ? (
            <p>The folder holds no file that can be read.</p>
          ) : (
            <ul className="min-h-0 overflow-y-auto">
              {listed.items.map((file) => (
                <FileRow key={file.path} file={file} onDone={() => setOpen(false)} />
              ))}
            </ul>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function FileRow({ file, onDone }: { file: Listed['items'][number]; onDone: () => void }) {
  const router = useRouter();
  const [name, setName] = useState(() => nameFor(file.path.slice(file.path.lastIndexOf('/') + 1)));
  const [task, setTask] = useState<Task | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const load = async (): Promise<void> => {
    setProblem(null);
    try {
      await api<Collection>(`/collections/${name}`).catch(() =>
        api('/collections', { method: 'POST', json: { name } }),
      );
      const id = newTaskId();
      const query = `file=${encodeURIComponent(file.path)}&assignKeys=true&wait=true&task=${id}`;
      const stop = watchTask(id, setTask);
      const { task: ended } = await api<{ task: Task }>(`/collections/${name}/records?${query}`, {
        method: 'POST',
      }).finally(stop);
      setTask(ended);
      if (ended.state !== 'done' || ended.failed > 0) return;
      router.push(`/c/${name}/records`);
      router.refresh();
      onDone();
    } catch (error) {
      setTask(null);
      setProblem((error as Error).message);
    }
  };
  const running = task !== null && task.endedAt === null;
  return (
    <li className="border-t border-line py-2">
      <div className="flex items-center gap-3">
        <span className="figures min-w-0 flex-1 truncate text-[13px]" title={file.path}>
          {file.path} <span className="text-soft">{bytes(file.bytes)}</span>
        </span>
        <label className="flex items-center gap-2">
          into
          <input
            className="field figures w-40"
            value={name}
            disabled={running}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <Button kind="primary" disabled={running || !isName(name)} onClick={() => void load()}>
          Load file
        </Button>
      </div>
      {running && <LoadProgress task={task} />}
      {task && !running && (
        <>
          <TaskErrors task={task} />
          <FailedLines task={task} />
        </>
      )}
      {problem && (
        <p role="alert" className="mt-1 text-madder">
          {problem}
        </p>
      )}
    </li>
  );
}
