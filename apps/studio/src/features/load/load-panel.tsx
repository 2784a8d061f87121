'use client';

import type { Collection, FieldRule, Page, Task } from '@yucca/contract';
import type { RuleProposal } from '@yucca/engine/rules';
import { isName } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { bytes, count, counted, roughly } from '@/ui/format';
import { freeName, inspectFile, type Inspection } from './inspect-file';
import { LoadProgress } from './load-progress';
import { runLoad } from './run-load';
import { SampleTable } from './sample-table';

/** The value of the key choice that stands for keys made from content. */
const MADE_KEY = '\u0000made';

const FORMAT_NAMES = { json: 'JSON', 'json-lines': 'JSON Lines', csv: 'CSV' } as const;

/** What was understood of a file, and one button to load it. */
export function LoadPanel({ file, waiting, onClose }: { file: File; waiting: number; onClose: () => void }) {
  const [inspection, setInspection] = useState<Inspection | null>(null);
  const [existing, setExisting] = useState<Collection[]>([]);
  const [task, setTask] = useState<Task | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [ended, setEnded] = useState<{ task: Task; name: string } | null>(null);
  const router = useRouter();

  useEffect(() => {
    let live = true;
    Promise.all([
      inspectFile(file),
      api<Page<Collection>>('/collections').catch(() => ({ items: [] as Collection[] })),
    ]).then(
      ([found, { items }]) => {
        if (!live) return;
        setExisting(items);
        setInspection(found);
      },
      () =>
        live &&
        setInspection({
          ok: false,
          reason: 'The file could not be read. If it has been moved or changed since, drop it again.',
        }),
    );
    return () => {
      live = false;
    };
  }, [file]);

  const load = async ({ name, key, rules, nest }: Order): Promise<void> => {
    if (!inspection?.ok) return;
    const id = crypto.randomUUID();
    setProblem(null);
    setTask({
      id,
      kind: 'load',
      collection: name,
      state: 'running',
      total: inspection.rows,
      done: 0,
      failed: 0,
      repeated: 0,
      errors: [],
      step: 'sending',
      startedAt: new Date().toISOString(),
      endedAt: null,
    });
    try {
      const isNew = !existing.some((collection) => collection.name === name);
      const end = await runLoad(
        { file, mediaType: inspection.mediaType, gzip: inspection.gzip, name, isNew, key, rules, nest },
        id,
        setTask,
      );
      if (end.done > 0 && end.failed === 0 && end.state === 'done') {
        router.push(`/c/${name}/records`);
        router.refresh();
        onClose();
      } else setEnded({ task: end, name });
    } catch (error) {
      setProblem((error as Error).message);
    }
    setTask(null);
  };

  const busy = task !== null;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && !busy && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content
          className="fixed top-[6vh] left-1/2 z-30 flex max-h-[88vh] w-[860px] max-w-[94vw] -translate-x-1/2 flex-col rounded-md border border-line bg-paper outline-none"
          onInteractOutside={(event) => event.preventDefault()}
        >
          <header className="flex items-baseline gap-3 border-b border-line px-6 py-4">
            <Dialog.Title className="text-[20px] leading-7">
              {file.name === 'pasted' ? 'What you pasted' : file.name}
            </Dialog.Title>
            <Dialog.Description className="figures text-soft">
              {bytes(file.size)}
              {waiting > 0 && `, ${counted(waiting, 'more file')} to come`}
            </Dialog.Description>
          </header>
          {inspection === null && <p className="px-6 py-10 text-soft">Reading the beginning of the file …</p>}
          {inspection?.ok === false && <Refusal reason={inspection.reason} onClose={onClose} />}
          {inspection?.ok && ended && <Ended {...ended} onClose={onClose} />}
          {inspection?.ok && !ended && (
            <Understood
              inspection={inspection}
              existing={existing}
              task={task}
              problem={problem}
              onLoad={load}
              onClose={onClose}
            />
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Refusal({ reason, onClose }: { reason: string; onClose: () => void }) {
  return (
    <div className="px-6 py-6">
      <p role="alert" className="mb-5">
        {reason}
      </p>
      <Button kind="primary" onClick={onClose}>
        Close
      </Button>
    </div>
  );
}

/** What somebody has settled on. */
interface Order {
  name: string;
  key: string;
  rules: FieldRule[];
  nest: boolean;
}

interface UnderstoodProps {
  inspection: Extract<Inspection, { ok: true }>;
  existing: Collection[];
  task: Task | null;
  problem: string | null;
  onLoad: (order: Order) => void;
  onClose: () => void;
}

function Understood({ inspection, existing, task, problem, onLoad, onClose }: UnderstoodProps) {
  const taken = new Map(existing.map((collection) => [collection.name, collection]));
  const [name, setName] = useState(inspection.name);
  const [key, setKey] = useState(inspection.key.field ?? MADE_KEY);
  const [rules, setRules] = useState(() => inspection.rules.map(({ rule }) => rule));
  const dotted = inspection.format === 'csv' && inspection.fields.some((field) => field.includes('.'));
  const [nest, setNest] = useState(dotted);
  const used = rules.filter(({ field }) => field !== (taken.get(name)?.key ?? key));
  const button = useRef<HTMLButtonElement>(null);
  useEffect(() => button.current?.focus(), []);
  const target = taken.get(name);
  const other = freeName(name, new Set(taken.keys()));
  const rows = inspection.rowsExact ? count(inspection.rows) : `about ${roughly(inspection.rows)}`;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (!isName(name) || task !== null) return;
    onLoad({ name, key: key === MADE_KEY ? madeKeyField(inspection.fields) : key, rules: used, nest });
  };
  return (
    <form onSubmit={submit} className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 overflow-y-auto px-6 py-4">
        <p className="mb-3">
          <strong className="font-semibold">{FORMAT_NAMES[inspection.format]}</strong> ({inspection.reason}), {rows}{' '}
          {inspection.rows === 1 ? 'record' : 'records'} with {counted(inspection.fields.length, 'field')}. The first
          rows:
        </p>
        <SampleTable
          sample={inspection.sample}
          fields={inspection.fields}
          keyField={target?.key ?? key}
          rules={used}
          proposals={inspection.rules}
          {...(inspection.format === 'csv' && task === null && { onRules: setRules })}
        />
        {inspection.format === 'csv' && <RulesNote rules={used} proposals={inspection.rules} />}
        {dotted && (
          <label className="mt-2 flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={nest}
              disabled={task !== null}
              onChange={(event) => setNest(event.target.checked)}
            />
            Open dotted names into objects: <code className="figures">{nestExample(inspection.fields)}</code>
          </label>
        )}
        <div className="mt-4 grid grid-cols-2 gap-6">
          <div>
            <label htmlFor="load-name" className="mb-1 block font-medium">
              Collection
            </label>
            <input
              id="load-name"
              className="field figures"
              value={name}
              disabled={task !== null}
              maxLength={63}
              spellCheck={false}
              autoComplete="off"
              onChange={(event) => setName(event.target.value)}
            />
            <NameNote name={name} target={target} other={other} onOther={() => setName(other)} />
          </div>
          <div>
            <label htmlFor="load-key" className="mb-1 block font-medium">
              Key
            </label>
            <select
              id="load-key"
              className="field"
              value={target ? target.key : key}
              disabled={target !== undefined || task !== null}
              onChange={(event) => setKey(event.target.value)}
            >
              {target && !inspection.fields.includes(target.key) && <option value={target.key}>{target.key}</option>}
              {inspection.fields.map((field) => (
                <option key={field} value={field}>
                  {field}
                </option>
              ))}
              <option value={MADE_KEY}>a key made from each row’s content</option>
            </select>
            <p className="mt-1 text-soft">{keyNote(key, inspection, target)}</p>
          </div>
        </div>
        {problem && (
          <p role="alert" className="mt-4 text-madder">
            {problem}
          </p>
        )}
      </div>
      <footer className="flex items-center gap-3 border-t border-line px-6 py-4">
        {task ? (
          <LoadProgress task={task} />
        ) : (
          <>
            <Button ref={button} kind="primary" type="submit" disabled={!isName(name)}>
              Load {rows} {inspection.rows === 1 ? 'record' : 'records'}
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </>
        )}
      </footer>
    </form>
  );
}

/** What will be read as what, and why. */
function RulesNote({ rules, proposals }: { rules: FieldRule[]; proposals: RuleProposal[] }) {
  if (rules.length === 0)
    return <p className="mt-2 text-soft">Every column is text. Choose under its name what it should be read as.</p>;
  const reasons = rules.map(({ field, as }) => {
    const proposed = proposals.find(({ rule }) => rule.field === field && rule.as === as);
    return `${field} as ${as}${proposed ? ` (${proposed.reason})` : ''}`;
  });
  return (
    <p className="mt-2 text-soft">
      Read from text: {reasons.join(', ')}. What cannot be read so stays text. These rules hold for later loads, too.
    </p>
  );
}

function nestExample(fields: readonly string[]): string {
  const [parent, child] = fields.find((field) => field.includes('.'))!.split('.', 2);
  return `${parent}.${child} → ${parent}: { ${child} }`;
}

/** A field to hold made keys that does not clash with one of the data. */
function madeKeyField(fields: readonly string[]): string {
  return freeName('key', new Set(fields));
}

function keyNote(
  key: string,
  { key: guess, sample }: UnderstoodProps['inspection'],
  target: Collection | undefined,
): string {
  if (target)
    return `“${target.name}” tells its records apart by “${target.key}”. Rows without it get a key made from their content.`;
  if (key === guess.field) return guess.reason;
  if (key === MADE_KEY)
    return `${guess.field === null ? `${guess.reason} ` : ''}The same row always gets the same key, so loading the file twice doubles nothing.`;
  const values = sample
    .map((record) => record[key])
    .filter((value) => value !== undefined && value !== null && value !== '');
  const repeated = values.length - new Set(values).size;
  if (repeated > 0)
    return `${counted(repeated, 'row')} of the first ${count(sample.length)} repeat a value: of rows with one key the last is kept.`;
  return values.length < sample.length
    ? 'Rows without it get a key made from their content.'
    : 'It does not repeat in the first rows.';
}

function NameNote({
  name,
  target,
  other,
  onOther,
}: {
  name: string;
  target: Collection | undefined;
  other: string;
  onOther: () => void;
}) {
  if (!isName(name)) return <p className="mt-1 text-madder">Small letters, digits and hyphens, a letter first.</p>;
  if (!target) return <p className="mt-1 text-soft">A new collection. Its search page will be at /s/{name}.</p>;
  return (
    <p className="mt-1 text-soft">
      “{name}” is here already, with {counted(target.records, 'record')}. Rows with a known key replace their record,
      the others are added.{' '}
      <button type="button" className="link" onClick={onOther}>
        Make a new one, “{other}”
      </button>
    </p>
  );
}

function Ended({ task, name, onClose }: { task: Task; name: string; onClose: () => void }) {
  const router = useRouter();
  const see = (): void => {
    router.push(`/c/${name}/records`);
    router.refresh();
    onClose();
  };
  const what = { done: 'Loaded', failed: 'Stopped', cancelled: 'Cancelled', running: '', queued: '' }[task.state];
  return (
    <div className="flex min-h-0 flex-col px-6 py-5">
      <p className="mb-3">
        <strong className="font-semibold">{what}.</strong> {counted(task.done, 'record')}{' '}
        {task.done === 1 ? 'is' : 'are'} in “{name}”
        {task.failed > 0 && `, ${counted(task.failed, 'row')} could not be read`}.
      </p>
      <TaskErrors task={task} />
      <FailedLines task={task} />
      <div className="mt-4 flex gap-3">
        {task.done > 0 && (
          <Button kind="primary" onClick={see}>
            See the records
          </Button>
        )}
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
