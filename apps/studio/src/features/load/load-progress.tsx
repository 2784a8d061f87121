import type { Task } from '@yucca/contract';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { count, duration, roughly } from '@/ui/format';

/** Where a load stands: rows, rate, time left, and a way to stop it. */
export function LoadProgress({ task }: { task: Task }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(timer);
  }, []);
  const rows = task.done + task.failed;
  const seconds = Math.max(0.5, (now - Date.parse(task.startedAt)) / 1000);
  const rate = rows / seconds;
  const left = rate > 0 && task.total > rows ? (task.total - rows) / rate : 0;
  const indexing = task.step === 'indexing';
  return (
    <div className="flex w-full items-center gap-4">
      <div className="flex-1">
        <progress
          className="meter block h-2 w-full"
          max={Math.max(1, task.total)}
          value={indexing ? undefined : rows}
          aria-label="Progress of the load"
        />
        <p role="status" className="figures mt-1 text-xs text-soft">
          {indexing
            ? `${count(task.done)} records stored, making them searchable …`
            : `${count(rows)} of about ${roughly(task.total)} rows, ${roughly(rate)} a second${left > 1 ? `, ${duration(left)} left` : ''}${task.failed > 0 ? `, ${count(task.failed)} failed` : ''}`}
        </p>
      </div>
      <Button disabled={indexing} onClick={() => void api(`/tasks/${task.id}`, { method: 'DELETE' }).catch(() => {})}>
        Cancel load
      </Button>
    </div>
  );
}
