'use client';

import { Popover } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Button } from '@/ui/button';
import { counted, duration } from '@/ui/format';
import type { DraftState, DraftStore } from './draft-store';

/** What is said of a draft before it is published. */
export interface PublishingEffect {
  node: ReactNode;
  /** Something gets worse: a note says why it is published all the same. */
  mustSay: boolean;
}

interface DraftBarProps<D extends object> {
  draft: [DraftState<D>, DraftStore<D>];
  /** What differs from live, in sentences. */
  changes: readonly { sentence: string }[];
  /** A hook: what the draft does, asked for when `open` comes true. Keep it the same. */
  useEffectOf?: (open: boolean) => PublishingEffect;
}

const NO_EFFECT: PublishingEffect = { node: null, mustSay: false };
const useNoEffect = (): PublishingEffect => NO_EFFECT;

/** What the draft would change, and what to do with it: undo, throw away, publish. Nothing while it is like live. */
export function DraftBar<D extends object>({
  draft: [state, store],
  changes,
  useEffectOf = useNoEffect,
}: DraftBarProps<D>) {
  const router = useRouter();
  if (changes.length === 0 && !state.exists && !state.canUndo && state.status === 'saved') return null;
  return (
    <div
      role="region"
      aria-label="Draft"
      className="flex shrink-0 items-center gap-3 border-t border-line bg-clay-tint px-6 py-2"
    >
      <span className="shrink-0 font-medium text-clay">
        ◇ {changes.length === 0 ? 'The draft is like live' : `Draft: ${counted(changes.length, 'change')}`}
      </span>
      <Clash state={state} onSettle={(whose) => void store.settle(whose)} />
      <SaveState state={state} onConfirm={() => void store.confirm()} onRetry={() => void store.retry()} />
      <span className="ml-auto flex gap-2">
        <Button disabled={!state.canUndo} onClick={() => store.undo()} title="Control+Z">
          Undo
        </Button>
        <Button
          disabled={!state.exists}
          onClick={() => void store.discard().then(() => router.refresh())}
          title="Undo brings it back"
        >
          Throw draft away
        </Button>
        <PublishButton
          useEffectOf={useEffectOf}
          disabled={changes.length === 0 || state.status !== 'saved'}
          sentences={changes.map(({ sentence }) => sentence)}
          onPublish={(note) => store.publish(note).then(() => router.refresh())}
        />
      </span>
    </div>
  );
}

/** Another window has changed the same as this one. */
function Clash({ state, onSettle }: { state: DraftState<object>; onSettle: (whose: 'mine' | 'theirs') => void }) {
  if (state.status !== 'clash') return null;
  return (
    <span role="alert" className="flex min-w-0 items-center gap-2">
      <span className="truncate">
        Another window has changed <span className="figures">{state.clashes.join(', ')}</span> too.
      </span>
      <Button onClick={() => onSettle('mine')}>Keep mine</Button>
      <Button onClick={() => onSettle('theirs')}>Take theirs</Button>
    </span>
  );
}

function SaveState({
  state: { status, cost, problem },
  onConfirm,
  onRetry,
}: {
  state: DraftState<object>;
  onConfirm: () => void;
  onRetry: () => void;
}) {
  if (status === 'failed')
    return (
      <span role="alert" className="flex min-w-0 items-center gap-2 text-madder">
        <span className="truncate">Not saved: {problem}</span>
        <button type="button" className="link shrink-0" onClick={onRetry}>
          Try again
        </button>
      </span>
    );
  if (status === 'asking')
    return (
      <span role="status" className="flex items-center gap-2">
        Needs a rebuild of about {duration(cost?.aboutS ?? 0)} in the background; searches go on meanwhile.
        <Button onClick={onConfirm}>Rebuild now</Button>
      </span>
    );
  const words =
    status === 'saving'
      ? cost?.rebuild
        ? `rebuilding, about ${duration(cost.aboutS)} …`
        : 'saving …'
      : cost === null
        ? ''
        : cost.rebuild
          ? 'saved, the index was rebuilt'
          : 'saved, no rebuild needed';
  return (
    <span role="status" className="text-soft">
      {words}
    </span>
  );
}

function PublishButton({
  useEffectOf,
  disabled,
  sentences,
  onPublish,
}: {
  useEffectOf: (open: boolean) => PublishingEffect;
  disabled: boolean;
  sentences: string[];
  onPublish: (note: string | null) => Promise<void>;
}) {
  const [open, setOpen] = useState(false);
  const [note, setNote] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const { node: effect, mustSay } = useEffectOf(open);
  const publish = (event: FormEvent): void => {
    event.preventDefault();
    setProblem(null);
    onPublish(note.trim() === '' ? null : note.trim()).then(
      () => {
        setOpen(false);
        setNote('');
      },
      (error: Error) => setProblem(error.message),
    );
  };
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button kind="primary" disabled={disabled}>
          Publish draft …
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          side="top"
          sideOffset={8}
          aria-label="Publish"
          className="z-20 w-[440px] rounded-md border border-line bg-paper p-4"
        >
          <form onSubmit={publish}>
            <h2 className="mb-2 text-[17px]">What changes for visitors</h2>
            <ul className="mb-3 max-h-64 list-disc overflow-y-auto pl-5" tabIndex={0} aria-label="Changes">
              {sentences.map((sentence) => (
                <li key={sentence}>{sentence}</li>
              ))}
            </ul>
            {effect}
            <label className="mb-3 block">
              <span className="mb-1 block">
                {mustSay
                  ? 'Something gets worse. Say why you publish it all the same:'
                  : 'A note for the history (if you like)'}
              </span>
              <input
                className="field"
                value={note}
                required={mustSay}
                maxLength={1000}
                onChange={(event) => setNote(event.target.value)}
              />
            </label>
            {problem && (
              <p role="alert" className="mb-3 text-madder">
                {problem}
              </p>
            )}
            <Button kind="primary" type="submit">
              Publish draft
            </Button>
          </form>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
