'use client';

import { RIGHTS, type Key, type Right } from '@yucca/contract';
import { ProblemError } from '@yucca/kit';
import { useState, type FormEvent, type ReactNode } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';

const WHAT: Record<Right, string> = {
  search: 'search, and nothing else: for pages',
  read: 'search and read records',
  write: 'load, change and delete records',
  admin: 'everything',
};

const EMPTY = { label: '', origins: '', perMinute: '', expiresAt: '', filter: '' };

/** The limits of a key as they are typed. */
type Typed = typeof EMPTY;

const listed = (text: string): string[] =>
  text
    .split(/[\s,]+/)
    .map((part) => part.trim())
    .filter((part) => part !== '');

/** What is sent for a key as it was typed: what is empty does not limit. */
export function keyOrder(typed: Typed, rights: Right[], collections: string[]): object {
  const origins = listed(typed.origins);
  return {
    label: typed.label.trim(),
    rights,
    ...(collections.length > 0 && { collections }),
    ...(origins.length > 0 && { origins }),
    ...(typed.perMinute !== '' && { perMinute: Number(typed.perMinute) }),
    ...(typed.expiresAt !== '' && { expiresAt: new Date(typed.expiresAt).toISOString() }),
    ...(typed.filter.trim() !== '' && { filter: typed.filter.trim() }),
  };
}

/** Makes a key. What the server refuses is said at the field it refuses. */
export function NewKeyForm({
  collections,
  onMade,
}: {
  collections: { name: string; title: string }[];
  onMade: (made: { key: Key; secret: string }) => void;
}) {
  const [typed, setTyped] = useState<Typed>(EMPTY);
  const [rights, setRights] = useState<Right[]>(['search']);
  const [chosen, setChosen] = useState<string[]>([]);
  const [problems, setProblems] = useState<Record<string, string>>({});
  const set = (part: Partial<Typed>): void => setTyped((now) => ({ ...now, ...part }));
  const toggled = <T,>(list: T[], item: T, on: boolean): T[] =>
    on ? [...list, item] : list.filter((one) => one !== item);

  const submit = (event: FormEvent): void => {
    event.preventDefault();
    setProblems({});
    api<{ key: Key; secret: string }>('/keys', { method: 'POST', json: keyOrder(typed, rights, chosen) }).then(
      (made) => {
        setTyped(EMPTY);
        setRights(['search']);
        setChosen([]);
        onMade(made);
      },
      (error: Error) => setProblems(problemsOf(error)),
    );
  };
  return (
    <form onSubmit={submit} className="grid content-start gap-3" noValidate>
      <h2 className="text-[17px] leading-6">New key</h2>
      <Row name="Label" problem={problems.label}>
        <input
          className="field"
          required
          maxLength={200}
          placeholder="Shop page"
          value={typed.label}
          onChange={(event) => set({ label: event.target.value })}
        />
      </Row>
      <fieldset>
        <legend className="mb-1 font-medium">Rights</legend>
        {RIGHTS.map((right) => (
          <label key={right} className="flex min-h-6 items-center gap-2">
            <input
              type="checkbox"
              checked={rights.includes(right)}
              onChange={(event) => setRights((now) => toggled(now, right, event.target.checked))}
            />
            {WHAT[right]}
          </label>
        ))}
        <Problem text={problems.rights} />
      </fieldset>
      {collections.length > 0 && (
        <fieldset>
          <legend className="mb-1 font-medium">
            Collections <span className="font-normal text-soft">(none ticked: all)</span>
          </legend>
          <div className="flex max-h-24 flex-wrap gap-x-4 overflow-y-auto">
            {collections.map(({ name, title }) => (
              <label key={name} className="flex min-h-6 items-center gap-2">
                <input
                  type="checkbox"
                  checked={chosen.includes(name)}
                  onChange={(event) => setChosen((now) => toggled(now, name, event.target.checked))}
                />
                {title}
              </label>
            ))}
          </div>
          <Problem text={problems.collections} />
        </fieldset>
      )}
      <Row
        name="Origins"
        hint="Sites, such as https://shop.example or https://*.shop.example. Empty: any."
        problem={problems.origins}
      >
        <input
          className="field figures text-[13px]"
          value={typed.origins}
          onChange={(event) => set({ origins: event.target.value })}
        />
      </Row>
      <div className="grid grid-cols-2 gap-3">
        <Row name="Requests a minute" problem={problems.perMinute}>
          <input
            type="number"
            min={1}
            className="field figures"
            placeholder="no limit"
            value={typed.perMinute}
            onChange={(event) => set({ perMinute: event.target.value })}
          />
        </Row>
        <Row name="Expires" problem={problems.expiresAt}>
          <input
            type="datetime-local"
            className="field"
            value={typed.expiresAt}
            onChange={(event) => set({ expiresAt: event.target.value })}
          />
        </Row>
      </div>
      <Row
        name="Filter"
        hint="CQL2-Text, such as stock > 0. Other records do not exist for the key. Goes with search and read."
        problem={problems.filter}
      >
        <input
          className="field figures text-[13px]"
          value={typed.filter}
          spellCheck={false}
          onChange={(event) => set({ filter: event.target.value })}
        />
      </Row>
      <Problem text={problems.all} />
      <Button
        kind="primary"
        type="submit"
        className="justify-self-start"
        disabled={typed.label.trim() === '' || rights.length === 0}
      >
        Make key
      </Button>
    </form>
  );
}

function problemsOf(error: Error): Record<string, string> {
  if (!(error instanceof ProblemError) || !error.problem.errors?.length) return { all: error.message };
  return Object.fromEntries(
    error.problem.errors.map(({ pointer, detail }) => [pointer.split('/')[1] || 'all', detail]),
  );
}

function Problem({ text }: { text: string | undefined }) {
  return text === undefined ? null : (
    <p role="alert" className="text-[13px] text-madder">
      {text}
    </p>
  );
}

function Row({
  name,
  hint,
  problem,
  children,
}: {
  name: string;
  hint?: string;
  problem: string | undefined;
  children: ReactNode;
}) {
  return (
    <div>
      <label className="block">
        <span className="mb-1 block font-medium">{name}</span>
        {children}
        {hint && <span className="mt-0.5 block text-xs text-soft">{hint}</span>}
      </label>
      <Problem text={problem} />
    </div>
  );
}
