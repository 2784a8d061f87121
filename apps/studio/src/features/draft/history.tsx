'use client';

import type { Page } from '@yucca/contract';
import { Popover } from 'radix-ui';
import { useEffect, useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { counted, moment } from '@/ui/format';
import type { DraftState, DraftStore } from './draft-store';

interface Version {
  version: number;
  note: string | null;
  savedAt: string;
  live: boolean;
}

export interface HistoryProps<D extends object> {
  /** Where the versions are listed: an address of the API. */
  path: string;
  /** Reads the document of a version. */
  read: (version: number) => Promise<D>;
  draft: [DraftState<D>, DraftStore<D>];
  /** What differs between two documents, in sentences. */
  changesOf: (before: D, after: D) => readonly { sentence: string }[];
}

/** The versions that were published, what each would change, and the way back to one: as a draft, with undo. */
export function History<D extends object>(props: HistoryProps<D>) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button>History</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="History"
          className="z-20 max-h-[70vh] w-[420px] overflow-y-auto rounded-md border border-line bg-paper p-4"
        >
          <Versions {...props} onDone={() => setOpen(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Versions<D extends object>({ path, onDone, ...rest }: HistoryProps<D> & { onDone: () => void }) {
  const [versions, setVersions] = useState<Version[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  useEffect(() => {
    let live = true;
    api<Page<Version>>(path).then(
      ({ items }) => live && setVersions(items),
      (error: Error) => live && setProblem(error.message),
    );
    return () => {
      live = false;
    };
  }, [path]);
  if (problem)
    return (
      <p role="alert" className="text-madder">
        {problem}
      </p>
    );
  if (versions === null) return <p className="text-soft">Reading the history …</p>;
  return (
    <ol className="grid gap-3">
      {versions.map((version) => (
        <li key={version.version} className="border-b border-line pb-3 last:border-b-0 last:pb-0">
          <p>
            <strong className="font-medium">Version {version.version}</strong>{' '}
            {version.live && <span className="text-agave">◆ live</span>}{' '}
            <span className="text-soft">{moment(version.savedAt)}</span>
          </p>
          {version.note && <p className="break-words">{version.note}</p>}
          {!version.live && <Restore {...rest} version={version.version} onDone={onDone} />}
        </li>
      ))}
    </ol>
  );
}

/** What a version differs by from live, and its way back. */
function Restore<D extends object>({
  read: readVersion,
  draft: [{ live }, store],
  changesOf,
  version,
  onDone,
}: Omit<HistoryProps<D>, 'path'> & { version: number; onDone: () => void }) {
  const [document, setDocument] = useState<D | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const read = (): void => {
    readVersion(version).then(setDocument, (error: Error) => setProblem(error.message));
  };
  if (problem) return <p className="text-madder">{problem}</p>;
  if (document === null)
    return (
      <button type="button" className="link min-h-6" onClick={read}>
        What differs
      </button>
    );
  const changes = changesOf(live, document);
  return (
    <>
      <p className="mt-1 text-soft">
        {changes.length === 0 ? 'It is like live.' : `${counted(changes.length, 'change')} against live:`}
      </p>
      <ul className="mb-2 list-disc pl-5 text-[13px]">
        {changes.map(({ sentence }) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      {changes.length > 0 && (
        <Button
          onClick={() => {
            store.change(() => document);
            onDone();
          }}
        >
          Restore as draft
        </Button>
      )}
    </>
  );
}
