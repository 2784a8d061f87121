import type { Task } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { Button } from '@/ui/button';
import { count, counted } from '@/ui/format';

interface LoadEndedProps {
  task: Task;
  /** The collection it went into. */
  name: string;
  onClose: () => void;
  onBack: () => void;
  /** Takes the collection that was made for it away again, and goes back. */
  onAgain: (() => void) | null;
}

/** How a load ended that left something out. When nothing came in, one may go back and change what was settled. */
export function LoadEnded({ task, name, onClose, onBack, onAgain }: LoadEndedProps) {
  const router = useRouter();
  const see = (): void => {
    router.push(`/c/${name}/records`);
    router.refresh();
    onClose();
  };
  const records = task.done - task.repeated;
  const what = { done: 'Loaded', failed: 'Stopped', cancelled: 'Cancelled', running: '', queued: '' }[task.state];
  return (
    <div className="flex min-h-0 flex-col px-6 py-5">
      <p className="mb-3">
        <strong className="font-semibold">{task.done === 0 ? 'Nothing was loaded' : what}.</strong>{' '}
        {task.done > 0 && `${counted(records, 'record')} ${records === 1 ? 'is' : 'are'} in “${name}”. `}
        {task.failed > 0 && `${counted(task.failed, 'row')} could not be read.`}
      </p>
      {task.repeated > 0 && (
        <p className="mb-3">
          {counted(task.repeated, 'row')} had the key of an earlier row and took its place. If they are records of their
          own, another field tells them apart.
        </p>
      )}
      <TaskErrors task={task} />
      <FailedLines task={task} />
      <div className="mt-4 flex gap-3">
        {task.done > 0 && (
          <Button kind="primary" onClick={see}>
            See the records
          </Button>
        )}
        {task.done === 0 && <Button onClick={onBack}>Back</Button>}
        {task.done > 0 && onAgain && <Button onClick={onAgain}>Load again under another key</Button>}
        <Button onClick={onClose}>Close</Button>
      </div>
    </div>
  );
}

/** The way to mend what failed: the lines as they came, to be put right and loaded again. */
export function FailedLines({ task }: { task: Task }) {
  if (!task.failedKept) return null;
  return (
    <p className="mt-2">
      <a className="link" href={`/api/v1/tasks/${task.id}/failed`} download>
        Download the failed lines
      </a>{' '}
      <span className="text-soft">to mend them and drop the file here again.</span>
    </p>
  );
}

/** The first errors of a load, by line. */
export function TaskErrors({ task }: { task: Task }) {
  if (task.errors.length === 0) return null;
  const hidden = task.failed - task.errors.length;
  return (
    <ul className="max-h-60 overflow-y-auto rounded-md border border-line bg-raised" tabIndex={0} aria-label="Errors">
      {task.errors.map(({ line, id, detail, text }, i) => (
        <li key={i} className="flex gap-3 border-b border-line px-3 py-1.5 last:border-b-0">
          <span className="figures w-24 shrink-0 text-soft">{line === undefined ? '' : `line ${count(line)}`}</span>
          <span className="min-w-0 break-words">
            {id !== undefined && <span className="figures">{id}: </span>}
            {detail}
            {text !== undefined && <code className="figures block truncate text-xs text-soft">{text}</code>}
          </span>
        </li>
      ))}
      {hidden > 0 && <li className="px-3 py-1.5 text-soft">and {count(hidden)} more</li>}
    </ul>
  );
}
