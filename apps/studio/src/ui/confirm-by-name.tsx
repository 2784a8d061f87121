'use client';

import { Dialog } from 'radix-ui';
import { useState, type FormEvent, type ReactNode } from 'react';
import { Button } from './button';

/** Asks for a name to be typed before something is destroyed for good. */
export function ConfirmByName({
  name,
  title,
  verb,
  children,
  onConfirm,
  onClose,
}: {
  name: string;
  title: string;
  verb: string;
  children: ReactNode;
  onConfirm: () => Promise<void>;
  onClose: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    if (typed !== name) return;
    onConfirm().then(onClose, (error: Error) => setProblem(error.message));
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content className="fixed top-[20vh] left-1/2 z-30 w-[480px] -translate-x-1/2 rounded-md border border-line bg-paper p-6">
          <Dialog.Title className="mb-2 text-[20px] leading-7">{title}</Dialog.Title>
          <Dialog.Description className="mb-4">{children}</Dialog.Description>
          <form onSubmit={submit}>
            <label className="mb-4 block">
              Type <strong className="figures font-medium">{name}</strong> to go on
              <input
                className="field figures mt-1"
                value={typed}
                autoComplete="off"
                spellCheck={false}
                onChange={(event) => setTyped(event.target.value)}
              />
            </label>
            {problem && (
              <p role="alert" className="mb-3 text-madder">
                {problem}
              </p>
            )}
            <div className="flex gap-3">
              <Button kind="danger" type="submit" disabled={typed !== name}>
                {verb}
              </Button>
              <Button onClick={onClose}>Keep it</Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
