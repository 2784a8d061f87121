'use client';

import type { Task } from '@yucca/contract';
import { Popover } from 'radix-ui';
import { FailedLines, TaskErrors } from '@/features/load/load-ended';
import { Button } from '@/ui/button';
import { counted, moment } from '@/ui/format';

const WORDS: Record<Task['state'], string> = {
  queued: 'waiting',
  running: 'running',
  done: 'loaded',
  failed: 'stopped',
  cancelled: 'cancelled',
};

/** The last loads of a collection and what went wrong in them. */
export function LoadHistory({ loads }: { loads: Task[] }) {
  if (loads.length === 0) return null;
  const failed = loads[0]!.failed;
  return (
    <Popover.Root>
      <Popover.Trigger asChild>
        <Button>
          {failed > 0 ? <span className="text-madder">Last load: {counted(failed, 'row')} failed</span> : 'Loads'}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          className="z-20 max-h-[70vh] w-[560px] overflow-y-auto rounded-md border border-line bg-paper p-4"
          aria-label="Loads"
        >
          <ol>
            {loads.map((task) => (
              <li key={task.id} className="mb-4 last:mb-0">
                <p className="mb-1">
                  <strong className="font-medium">{moment(task.startedAt)}</strong>: {WORDS[task.state]},{' '}
                  {counted(task.done, 'record')}
                  {task.failed > 0 && `, ${counted(task.failed, 'row')} failed`}
                  {task.repeated > 0 &&
                    `, ${counted(task.repeated, 'row')} repeated a key of the same file (the last was kept)`}
                </p>
                <TaskErrors task={task} />
                <FailedLines task={task} />
              </li>
            ))}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
