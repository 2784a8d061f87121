import type { FeedComparison, FeedDrift, FeedRepair, RepairKind, Task } from '@yucca/contract';
import { useRef, useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { count, counted, roughly } from '@/ui/format';
import { newTaskId } from '@/ui/task-id';
import { watchTask } from '@/ui/watch-task';
import { driftWords, repairWords } from './feed-words';

const TYPE = 'application/x-ndjson';

/** Compares a collection with a file of all records of its source, and repairs what is named. */
export function Compare({
  path,
  asks,
  drift,
  onRepaired,
}: {
  path: string;
  /** What was found by itself. */
  drift: FeedDrift | null;
  /** The source is asked, and need not send a file. */
  asks: boolean;
  onRepaired: () => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<{ file: File | null; readAt: string } | null>(null);
  const [told, setTold] = useState<FeedComparison | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const [task, setTask] = useState<Task | null>(null);
  const [said, setSaid] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const [deletes, setDeletes] = useState<number | null>(null);

  const doing = async (what: string, work: () => Promise<void>): Promise<void> => {
    setBusy(what);
    setProblem(null);
    try {
      await work();
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setBusy(null);
      setTask(null);
    }
  };
  /** What became of work for which a file is sent, or nothing. */
  const send = async <T,>(to: string, file: File | null): Promise<T> => {
    const id = newTaskId();
    const stop = watchTask(id, setTask);
    const address = `${path}/${to}${to.includes('?') ? '&' : '?'}wait=true&task=${id}`;
    const { task: end } = await api<{ task: Task }>(address, { method: 'POST', ...(file && { body: file, headers: { 'Content-Type': TYPE } }) }).finally(stop); // prettier-ignore
    if (end.state === 'cancelled') throw new Error(end.result === undefined ? 'Cancelled.' : `Cancelled. ${repairWords(end.result as FeedRepair)}`); // prettier-ignore
    if (end.state !== 'done') throw new Error(end.errors[0]?.detail ?? 'It came to no end.');
    return end.result as T;
  };
  const compare = (file: File | null): Promise<void> =>
    doing(
      file === null ? `Comparing with ${asks ? 'the source' : 'its events'} …` : `Comparing with ${file.name} …`,
      async () => {
        setSaid('');
        setDeletes(null);
        setChosen({ file, readAt: new Date(file?.lastModified ?? Date.now()).toISOString() });
        setTold(await send<FeedComparison>('compare', file));
      },
    );
  const repair = (what: RepairKind[], confirm = false): Promise<void> =>
    doing('Repairing …', async () => {
      const { file, readAt } = chosen!;
      const query = new URLSearchParams({ what: what.join(','), asOf: readAt, ...(confirm && { confirm: 'true' }) });
      const done = await send<FeedRepair>(`repair?${query}`, file);
      setDeletes(done.asks);
      setSaid(repairWords(done));
      setTold(await send<FeedComparison>('compare', file));
      onRepaired();
    });
  /** Events were applied once already: what they wrote comes from the source's own records. */
  const repairs = asks || (chosen !== null && chosen.file !== null);
  return (
    <section aria-label="Compare with the source" className="border-t border-line px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="text-[15px] font-semibold">Compare with the source</h3>
        <span className="text-soft">
          {asks
            ? 'Reads all of it; nothing is changed.'
            : 'With a file of all its records (one JSON object a line), or with what its events told last.'}
        </span>
        <input
          ref={input}
          type="file"
          className="sr-only"
          aria-label="Records of the source"
          accept=".jsonl,.ndjson"
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) void compare(file);
            event.target.value = '';
          }}
        />
        <span className="ml-auto flex gap-3">
          {!asks && (
            <Button disabled={busy !== null} onClick={() => input.current?.click()}>
              Choose a file …
            </Button>
          )}
          <Button disabled={busy !== null} onClick={() => void compare(null)}>
            {asks ? 'Compare now' : 'Compare with its events'}
          </Button>
        </span>
      </div>
      {drift !== null && <p className="mt-1 text-soft">{driftWords(drift)}</p>}
      <p className="mt-1 flex items-center gap-3 text-soft">
        <span role="status">{busy ?? said}</span>
        {task && (
          <>
            <span className="figures text-xs">
              {count(task.done)} of about {roughly(task.total)}
            </span>
            <button
              type="button"
              className="link"
              onClick={() => void api(`/tasks/${task.id}`, { method: 'DELETE' }).catch(() => {})}
            >
              Cancel
            </button>
          </>
        )}
      </p>
      {problem && (
        <p role="alert" className="mt-1 text-madder">
          {problem}
        </p>
      )}
      {told && (
        <>
          <dl className="mt-2 grid grid-cols-[max-content_max-content_1fr] gap-x-4 gap-y-1">
            <Line name="Same" value={told.same} samples="" />
            <Line name="Missing here" value={told.missing} samples={told.samples.missing.join(', ')} />
            <Line
              name="Different"
              value={told.different}
              samples={told.samples.different
                .map(({ key, fields }) => (fields.length === 0 ? key : `${key} (${fields.join(', ')})`))
                .join(', ')}
            />
            <Line name="Not in the source" value={told.extra} samples={told.samples.extra.join(', ')} />
            {told.unreadable > 0 && (
              <Line
                name="Lines without a record"
                value={told.unreadable}
                samples={told.samples.unreadable.map(({ line, detail }) => `line ${line}: ${detail}`).join('; ')}
              />
            )}
          </dl>
          {!repairs && told.records === 0 && <p className="mt-2 text-soft">Its events have told of no record yet.</p>}
          {!repairs && told.missing + told.different + told.extra > 0 && (
            <p className="mt-2 text-soft">
              By what its events told last. To repair it, choose a file with all records of the source.
            </p>
          )}
          <p className="mt-2 flex flex-wrap gap-3">
            {repairs && told.missing + told.different > 0 && (
              <Button disabled={busy !== null} onClick={() => void repair(['missing', 'different'])}>
                Write the {counted(told.missing + told.different, 'record')} missing or different
              </Button>
            )}
            {repairs && told.extra > 0 && (
              <Button disabled={busy !== null} kind="danger" onClick={() => void repair(['extra'], deletes !== null)}>
                {deletes === null
                  ? `Delete the ${counted(told.extra, 'record')} not in the source`
                  : `Yes, delete ${count(deletes)} records: more than a tenth`}
              </Button>
            )}
          </p>
        </>
      )}
    </section>
  );
}

function Line({ name, value, samples }: { name: string; value: number; samples: string }) {
  return (
    <>
      <dt>{name}</dt>
      <dd className="figures text-right">{count(value)}</dd>
      <dd className="figures min-w-0 truncate text-xs leading-6 text-soft" title={samples}>
        {samples}
      </dd>
    </>
  );
}
