'use client';

import type { PlacementDocument } from '@yucca/contract';
import { Dialog } from 'radix-ui';
import { useId, useState, type FormEvent, type ReactNode } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { useDraft } from '../draft';
import { withPlacement } from './placements';
import { CONDITIONS } from './placement-conditions';
import { formFrom, placementFrom, type PlacementText } from './placement-text';

/** One placement to be written: when it is in effect, and what it does. Nothing changes until it is saved. */
export function PlacementForm({
  collection,
  name,
  start,
  onClose,
}: {
  collection: string;
  /** The placement it takes the place of; null = a new one. */
  name: string | null;
  start: PlacementDocument;
  onClose: () => void;
}) {
  const [{ document }, store] = useDraft();
  const [form, setForm] = useState(() => formFrom(start));
  const [problem, setProblem] = useState<string | null>(null);
  const set = (change: Partial<PlacementText>): void => setForm((now) => ({ ...now, ...change }));
  const save = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    setProblem(null);
    const read = placementFrom(form);
    if (!read.ok) return setProblem(read.problem);
    const change = (now: typeof document) => withPlacement(now, name, read.placement);
    try {
      // The server says what does not fit, conditions that cannot be read among them.
      await api(`/collections/${collection}/tuning/draft/cost`, { method: 'POST', json: change(document) });
    } catch (error) {
      const { problem: said } = error as { problem?: { errors?: { pointer: string; detail: string }[] } };
      return setProblem(said?.errors?.map(({ pointer, detail }) => `${pointer.split('/').slice(3).join(' ')}: ${detail}`).join('; ') ?? (error as Error).message); // prettier-ignore
    }
    store.change(change);
    onClose();
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[6vh] left-1/2 z-30 max-h-[88vh] w-[720px] -translate-x-1/2 overflow-y-auto rounded-md border border-line bg-paper p-6"
        >
          <form onSubmit={(event) => void save(event)} className="grid gap-4">
            <Dialog.Title className="text-[20px] leading-7">
              {name === null ? 'New placement' : `Placement ${name}`}
            </Dialog.Title>
            <Field label="Name">
              {(id) => (
                <input
                  id={id}
                  className="field figures"
                  required
                  value={form.name}
                  onChange={(event) => set({ name: event.target.value })}
                />
              )}
            </Field>
            <fieldset className="grid gap-2 border-t border-line pt-3">
              <legend className="pr-2 font-head font-semibold">When</legend>
              <div className="grid grid-cols-[200px_1fr] gap-2">
                <select
                  className="field"
                  aria-label="Which queries"
                  value={form.is}
                  onChange={(event) => set({ is: event.target.value as PlacementText['is'] })}
                >
                  <option value="any">any query</option>
                  <option value="empty">nothing is typed yet</option>
                  <option value="exact">the query is</option>
                  <option value="starts">the query starts with</option>
                  <option value="contains">the query contains</option>
                </select>
                {form.is !== 'any' && form.is !== 'empty' && (
                  <input
                    className="field"
                    aria-label="Query"
                    value={form.query}
                    onChange={(event) => set({ query: event.target.value })}
                  />
                )}
              </div>
              <div className="grid grid-cols-2 gap-2">
                <Field label="From">
                  {(id) => (
                    <input
                      id={id}
                      type="date"
                      className="field figures"
                      value={form.from}
                      onChange={(event) => set({ from: event.target.value })}
                    />
                  )}
                </Field>
                <Field label="To, that day included">
                  {(id) => (
                    <input
                      id={id}
                      type="date"
                      className="field figures"
                      value={form.to}
                      onChange={(event) => set({ to: event.target.value })}
                    />
                  )}
                </Field>
              </div>
              <div className="grid grid-cols-2 gap-2">
                {CONDITIONS.map(({ name, label, example }) => (
                  <Lines
                    key={name}
                    label={label}
                    example={example}
                    value={form.conditions[name] ?? ''}
                    onValue={(lines) => set({ conditions: { ...form.conditions, [name]: lines } })}
                  />
                ))}
              </div>
            </fieldset>
            <fieldset className="grid gap-2 border-t border-line pt-3">
              <legend className="pr-2 font-head font-semibold">What</legend>
              <div className="grid grid-cols-2 gap-2">
                <Lines
                  label="Pinned: rank and key, one a line"
                  example="1 P-0042"
                  value={form.pin}
                  onValue={(pin) => set({ pin })}
                />
                <Lines
                  label="Hidden: keys, one a line"
                  example="P-0107"
                  value={form.hide}
                  onValue={(hide) => set({ hide })}
                />
                <Lines
                  label="Lifted: conditions (CQL2), one a line"
                  example="stock > 0"
                  value={form.lift}
                  onValue={(lift) => set({ lift })}
                />
                <Lines
                  label="Sunk: conditions (CQL2), one a line"
                  example="rating < 3"
                  value={form.sink}
                  onValue={(sink) => set({ sink })}
                />
              </div>
              <Field label="Rewrite: search for something else">
                {(id) => (
                  <input
                    id={id}
                    className="field"
                    value={form.replaceQuery}
                    onChange={(event) => set({ replaceQuery: event.target.value })}
                  />
                )}
              </Field>
              <Field label="Notice above the results">
                {(id) => (
                  <input
                    id={id}
                    className="field"
                    value={form.notice}
                    onChange={(event) => set({ notice: event.target.value })}
                  />
                )}
              </Field>
              <Field label="Redirect: send the visitor to an address">
                {(id) => (
                  <input
                    id={id}
                    className="field"
                    value={form.redirect}
                    onChange={(event) => set({ redirect: event.target.value })}
                  />
                )}
              </Field>
            </fieldset>
            {problem && (
              <p role="alert" className="text-madder">
                {problem}
              </p>
            )}
            <p className="flex justify-end gap-2">
              <Button onClick={onClose}>Leave as it was</Button>
              <Button kind="primary" type="submit">
                Save placement
              </Button>
            </p>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Field({ label, children }: { label: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-[13px]">
        {label}
      </label>
      {children(id)}
    </div>
  );
}

function Lines({
  label,
  example,
  value,
  onValue,
}: {
  label: string;
  example: string;
  value: string;
  onValue: (value: string) => void;
}) {
  return (
    <Field label={label}>
      {(id) => (
        <textarea
          id={id}
          className="field figures text-[13px]"
          rows={2}
          spellCheck={false}
          placeholder={example}
          value={value}
          onChange={(event) => onValue(event.target.value)}
        />
      )}
    </Field>
  );
}
