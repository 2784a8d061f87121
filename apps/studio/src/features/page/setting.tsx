'use client';

import { hrefSchema } from '@yucca/contract';
import type { ReactNode } from 'react';
import { RemoveButton } from '@/ui/controls';

/** A control with the part of the page it is for, and the way back to what stands there without it. */
export function Setting({
  part,
  isSet,
  usual,
  onReset,
  children,
}: {
  /** The part of the page that is outlined while this is worked, and whose click leads here. */
  part?: string;
  isSet: boolean;
  /** What stands there without a choice, in words. */
  usual?: string | undefined;
  onReset: () => void;
  children: ReactNode;
}) {
  return (
    <div data-for={part} className="rounded-md">
      {children}
      {(isSet || usual !== undefined) && (
        <p className="flex min-h-6 items-center gap-2 text-xs text-soft">
          {isSet ? (
            <button type="button" className="link min-h-6" onClick={onReset}>
              Reset{usual === undefined ? '' : ` to ${usual}`}
            </button>
          ) : (
            usual !== undefined && <span>As usual: {usual}</span>
          )}
        </p>
      )}
    </div>
  );
}

/** A line of text that becomes part of the design as it is typed; empty = as usual. */
export function TextSetting({
  label,
  value,
  placeholder,
  most = 80,
  onText,
}: {
  label: string;
  value: string | undefined;
  placeholder: string;
  most?: number;
  onText: (text: string | undefined) => void;
}) {
  return (
    <label className="grid gap-1 text-[13px]">
      {label}
      <input
        className="field text-[13px]"
        value={value ?? ''}
        placeholder={placeholder}
        maxLength={most}
        onChange={(event) => onText(event.target.value === '' ? undefined : event.target.value)}
      />
    </label>
  );
}

/** Two buttons that move something within a list. */
export function MoveButtons({
  what,
  at,
  count,
  onMove,
}: {
  what: string;
  at: number;
  count: number;
  onMove: (from: number, to: number) => void;
}) {
  const button = (to: number, sign: string, words: string) => (
    <button
      type="button"
      aria-label={`Move ${what} ${words}`}
      title={`Move ${words}`}
      disabled={to < 0 || to >= count}
      onClick={() => onMove(at, to)}
      className="grid size-6 place-items-center rounded text-soft hover:text-ink disabled:opacity-30"
    >
      {sign}
    </button>
  );
  return (
    <span className="flex">
      {button(at - 1, '↑', 'up')}
      {button(at + 1, '↓', 'down')}
    </span>
  );
}

/** The head of an item that can be called, moved and taken away. */
export function ItemHead({
  kind,
  label,
  at,
  count,
  onLabel,
  onMove,
  onRemove,
}: {
  /** What it is: "section". */
  kind: string;
  label: string;
  at: number;
  count: number;
  onLabel: (label: string) => void;
  onMove: (from: number, to: number) => void;
  onRemove: () => void;
}) {
  return (
    <div className="flex items-center gap-1">
      <span aria-hidden="true" className="cursor-grab text-soft" title="Drag to another place">
        ⠿
      </span>
      <input
        aria-label={`Label of ${kind} ${at + 1}`}
        className="field min-w-0 flex-1 py-0.5 text-[13px]"
        value={label}
        maxLength={80}
        onChange={({ target: { value } }) => value !== '' && onLabel(value)}
      />
      <MoveButtons what={label} at={at} count={count} onMove={onMove} />
      <RemoveButton what={label} onRemove={onRemove} />
    </div>
  );
}

/** Whether a link may lead to an address, as the contract has it. */
export const mayLead = (href: string): boolean => HREF.test(href);
const HREF = new RegExp(hrefSchema.pattern);

/** A list with one of its items somewhere else. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const rest = list.toSpliced(from, 1);
  rest.splice(to, 0, list[from]!);
  return rest;
}

/** What makes a row of a list one that can be dragged to another place of it. */
export function draggable(at: number, kind: string, onMove: (from: number, to: number) => void) {
  const type = `application/x-yucca-${kind}`;
  return {
    draggable: true,
    onDragStart: (event: React.DragEvent) => event.dataTransfer.setData(type, String(at)),
    onDragOver: (event: React.DragEvent) => {
      if (event.dataTransfer.types.includes(type)) event.preventDefault();
    },
    onDrop: (event: React.DragEvent) => {
      const from = event.dataTransfer.getData(type);
      if (from === '') return;
      event.preventDefault();
      event.stopPropagation();
      if (Number(from) !== at) onMove(Number(from), at);
    },
  };
}
