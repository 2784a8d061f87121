'use client';

import type { Collection, FieldRule, Page, Task } from '@yucca/contract';
import { isName } from '@yucca/contract';
import { useRouter } from 'next/navigation';
import { Dialog } from 'radix-ui';
import { useEffect, useLayoutEffect, useRef, useState, type FormEvent } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { UTF_8 } from '@/text/charset';
import { bytes, count, counted, roughly } from '@/ui/format';
import { newTaskId } from '@/ui/task-id';
import { freeName, hasDottedNames, type Inspection } from '@/inspect/inspect-file';
import { inspectAside } from './inspect-aside';
import { HeaderChoice } from './header-choice';
import { LoadEnded } from './load-ended';
import { keyNote, MADE_KEY, NameNote, nestExample, RulesNote } from './load-notes';
import { LoadProgress } from './load-progress';
import { CharsetChoice } from './charset-choice';
import { PointerChoice } from './pointer-choice';
import { runLoad } from './run-load';
import { SampleTable } from './sample-table';
import { useKeyCheck } from './use-key-check';

const FORMAT_NAMES = {
  json: 'JSON',
  'json-lines': 'JSON Lines',
  csv: 'CSV',
  yaml: 'YAML',
  xml: 'XML',
  xlsx: 'Excel',
  parquet: 'Parquet',
  markdown: 'Markdown',
  html: 'HTML',
  pages: 'Pages',
} as const;

/** What was understood of a file, and one button to load it. */
export function LoadPanel({ file, waiting, onClose }: { file: File; waiting: number; onClose: () => void }) {
  const [inspection, setInspection] = useState<Inspection | null>(null);
  const [existing, setExisting] = useState<Collection[]>([]);
  const [task, setTask] = useState<Task | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [ended, setEnded] = useState<{ task: Task; name: string; isNew: boolean } | null>(null);
  const [name, setName] = useState<string | null>(null);
  const [headerLines, setHeaderLines] = useState(1);
  /** A charset was chosen, and can be chosen again. */
  const [charsetChosen, setCharsetChosen] = useState(false);
  const router = useRouter();

  useEffect(() => {
    let live = true;
    Promise.all([
      inspectAside(file),
      api<Page<Collection>>('/collections').catch(() => ({ items: [] as Collection[] })),
    ]).then(
      ([found, { items }]) => {
        if (!live) return;
        setExisting(items);
        setInspection(found);
        if (found.ok) setHeaderLines(found.above.length + 1);
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

  /** Reads the file otherwise: from another place, or as written in another charset. */
  const reread = async (how: Parameters<typeof inspectAside>[1]): Promise<void> => {
    const found = await inspectAside(file, how);
    if (found.ok) {
      setInspection(found);
      setHeaderLines((lines) => Math.max(lines, found.above.length + 1));
    }
    if (!found.ok) setProblem(found.reason);
  };

  /** Rows that share a key lose all but the last: what was made of them is taken away for another try. */
  const again =
    ended?.isNew && ended.task.repeated > 0
      ? () =>
          void api(`/collections/${ended.name}`, { method: 'DELETE' }).then(
            () => setEnded(null),
            (error: Error) => {
              setEnded(null);
              setProblem(error.message);
            },
          )
      : null;

  const load = async ({ name, key, rules, nest }: Order): Promise<void> => {
    if (!inspection?.ok) return;
    const id = newTaskId();
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
        {
          file,
          mediaType: inspection.mediaType,
          gzip: inspection.gzip,
          at: inspection.at,
          header: inspection.header,
          charset: inspection.charset,
          name,
          isNew,
          key,
          rules,
          nest,
        },
        id,
        setTask,
      );
      if (end.done > 0 && end.failed === 0 && end.repeated === 0 && end.state === 'done') {
        router.push(`/c/${name}/records`);
        router.refresh();
        onClose();
      } else setEnded({ task: end, name, isNew });
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
          {ended && <LoadEnded {...ended} onClose={onClose} onBack={() => setEnded(null)} onAgain={again} />}
          {inspection?.ok && (
            <Understood
              key={`${inspection.charset} ${inspection.at} ${inspection.header}`}
              hidden={ended !== null}
              name={name ?? inspection.name}
              onName={setName}
              onPlace={(at) => void reread({ at, charset: inspection.charset })}
              headerLines={headerLines}
              onHeader={(header) => void reread({ header, charset: inspection.charset })}
              file={file}
              charsetChosen={charsetChosen}
              onCharset={(charset) => {
                setCharsetChosen(true);
                void reread({ charset });
              }}
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
  /** Kept as it was filled in while something else is shown. */
  hidden: boolean;
  /** Of the collection, as it is typed. */
  name: string;
  onName: (name: string) => void;
  onPlace: (at: string | null) => void;
  onHeader: (line: number) => void;
  /** CSV: lines that may hold its header. */
  headerLines: number;
  file: File;
  charsetChosen: boolean;
  onCharset: (charset: string) => void;
  inspection: Extract<Inspection, { ok: true }>;
  existing: Collection[];
  task: Task | null;
  problem: string | null;
  onLoad: (order: Order) => void;
  onClose: () => void;
}

function Understood(props: UnderstoodProps) {
  const { hidden, name, onName: setName, inspection, existing, task, problem, onLoad, onClose } = props;
  const taken = new Map(existing.map((collection) => [collection.name, collection]));
  const checking = useKeyCheck(props.file, inspection);
  const proposedKey = (checking !== null && 'check' in checking ? checking.check.guess : inspection.key).field;
  const [chosenKey, setKey] = useState<string | null>(null);
  const key = chosenKey ?? proposedKey ?? MADE_KEY;
  const [rules, setRules] = useState(() =>
    inspection.rules.filter(({ isDoubtful }) => !isDoubtful).map(({ rule }) => rule),
  );
  const { isTyped } = inspection;
  const dotted = hasDottedNames(inspection);
  const [nest, setNest] = useState(dotted);
  const used = rules.filter(({ field }) => field !== (taken.get(name)?.key ?? key));
  const button = useRef<HTMLButtonElement>(null);
  // With the form, not after it: whoever types at once would lose letters.
  useLayoutEffect(() => button.current?.focus(), []);
  const target = taken.get(name);
  const other = freeName(name, new Set(taken.keys()));
  const rows = inspection.rowsExact ? count(inspection.rows) : `about ${roughly(inspection.rows)}`;
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (!isName(name) || task !== null) return;
    onLoad({ name, key: key === MADE_KEY ? madeKeyField(inspection.fields) : key, rules: used, nest });
  };
  return (
    <form onSubmit={submit} className={hidden ? 'hidden' : 'flex min-h-0 flex-1 flex-col'}>
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
          isTyped={isTyped}
          {...(task === null && { onRules: setRules })}
        />
        {(inspection.charset !== UTF_8 || props.charsetChosen) && (
          <CharsetChoice charset={inspection.charset} disabled={task !== null} onCharset={props.onCharset} />
        )}
        {props.headerLines > 1 && (
          <HeaderChoice
            line={inspection.header!}
            above={inspection.above}
            lines={props.headerLines}
            disabled={task !== null}
            onLine={props.onHeader}
          />
        )}
        {inspection.places.length > 0 && (
          <PointerChoice places={inspection.places} at={inspection.at} disabled={task !== null} onAt={props.onPlace} />
        )}
        {(!isTyped || inspection.rules.length > 0) && (
          <RulesNote rules={used} proposals={inspection.rules} isTyped={isTyped} />
        )}
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
            <p className="mt-1 text-soft">{keyNote(key, inspection, target, checking)}</p>
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

/** A field to hold made keys that does not clash with one of the data. */
function madeKeyField(fields: readonly string[]): string {
  return freeName('key', new Set(fields));
}
