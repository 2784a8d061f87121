import type { FeedComparison, FeedDrift, FeedRepair, RepairKind } from '@yucca/contract';
import { useRef, useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { count, counted } from '@/ui/format';
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
    }
  };
  const send = <T,>(to: string, file: File | null): Promise<T> => api<T>(`${path}/${to}`, { method: 'POST', ...(file && { body: file, headers: { 'Content-Type': TYPE } }) }); // prettier-ignore
  const compare = (file: File | null): Promise<void> =>
    doing(file === null ? 'Comparing with the source …' : `Comparing with ${file.name} …`, async () => {
      setSaid('');
      setDeletes(null);
      setChosen({ file, readAt: new Date(file?.lastModified ?? Date.now()).toISOString() });
      setTold(await send<FeedComparison>('compare', file));
    });
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
  return (
    <section aria-label="Compare with the source" className="border-t border-line px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="text-[15px] font-semibold">Compare with the source</h3>
        <span className="text-soft">
          {asks
            ? 'Reads all of it; nothing is changed.'
            : 'A file with all records of the source, one JSON object a line.'}
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
        <Button
          className="ml-auto"
          disabled={busy !== null}
          onClick={() => (asks ? void compare(null) : input.current?.click())}
        >
          {asks ? 'Compare now' : 'Choose a file …'}
        </Button>
      </div>
      {drift !== null && <p className="mt-1 text-soft">{driftWords(drift)}</p>}
      <p role="status" className="mt-1 text-soft">
        {busy ?? said}
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
              samples={told.samples.different.map(({ key, fields }) => `${key} (${fields.join(', ')})`).join(', ')}
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
          <p className="mt-2 flex flex-wrap gap-3">
            {told.missing + told.different > 0 && (
              <Button disabled={busy !== null} onClick={() => void repair(['missing', 'different'])}>
                Write the {counted(told.missing + told.different, 'record')} missing or different
              </Button>
            )}
            {told.extra > 0 && (
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
