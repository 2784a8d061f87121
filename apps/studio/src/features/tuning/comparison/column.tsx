'use client';

import type { Card, SearchResult } from '@yucca/contract';
import { shownHit } from '@yucca/kit';
import clsx from 'clsx';
import { Popover } from 'radix-ui';
import { memo, useEffect, useRef, useState, type PointerEvent } from 'react';
import { HitLine } from '@/features/probe/hit-line';
import { Explanation } from './explanation';
import { ROW_PX } from './lines';
import { movedWords, type Movement } from './movement';
import { RowActions } from './row-actions';

export interface ColumnProps {
  results: SearchResult[];
  card: Card;
  /** "Live", "Draft", "Version 3". */
  label: string;
  moved: readonly Movement[];
  /** Rows on screen: what stands further down under the other version is leaving. */
  shown: number;
  /** Shows how far each result has moved from one of these versions to the other, which is this column's. */
  versions?: [from: string, to: string];
  /** The record that is looked for. */
  sought?: string;
  /** Of the draft: its results can be taken by hand. */
  hand?: { text: string; collection: string; onPin: (id: string, place: number) => void } | undefined;
}

/** The results of one version, in their order. Drawn again only when they or their places change. */
export const Column = memo(function Column({
  results,
  card,
  label,
  moved,
  shown,
  versions,
  sought,
  hand,
}: ColumnProps) {
  const byId = new Map(moved.map((one) => [one.id, one]));
  const { dragged, start } = useDrag(results.length, (row, to) => hand?.onPin(results[row]!.id, to + 1));
  const [explained, setExplained] = useState<Explained | null>(null);
  const explain = (id: string, button: HTMLElement): void =>
    setExplained((now) => (now?.id === id ? null : { id, button }));
  return (
    <ol aria-label={label} className="relative min-w-0">
      {results.map((result, row) => {
        const movement = byId.get(result.id);
        const isLeaving = movement !== undefined && (movement.right === null || movement.right >= shown);
        return (
          <li
            key={result.id}
            style={{ height: ROW_PX }}
            className={clsx(
              'flex border-b border-line',
              !versions && isLeaving && 'text-soft [&_img]:opacity-50',
              dragged?.row === row && 'bg-sunk',
              result.id === sought && 'bg-agave-tint',
            )}
          >
            <Place row={row} pinned={result.pinned ?? false} {...(hand && { onGrab: (event) => start(event, row) })} />
            <Row
              result={result}
              card={card}
              movement={versions ? movement : undefined}
              versions={versions}
              title={hand ? 'Why is it here? Pin it, hide it' : 'Why is it here?'}
              open={explained?.id === result.id}
              onExplain={explain}
            />
          </li>
        );
      })}
      {dragged && (
        <li
          aria-hidden="true"
          className="pointer-events-none absolute inset-x-0 border-t-2 border-plum"
          style={{ top: (dragged.to > dragged.row ? dragged.to + 1 : dragged.to) * ROW_PX - 1 }}
        >
          <span className="figures absolute right-0 -translate-y-1/2 rounded bg-plum px-1.5 text-xs text-paper">
            pin at {dragged.to + 1}
          </span>
        </li>
      )}
      {explained && (
        <Why explained={explained} results={results} card={card} hand={hand} onClose={() => setExplained(null)} />
      )}
    </ol>
  );
});

/** Dragging a row to a place among the rows; the pointer's own events, so that a finger can do it too. */
function useDrag(rows: number, onDrop: (row: number, to: number) => void) {
  const [dragged, setDragged] = useState<{ row: number; to: number } | null>(null);
  const from = useRef({ y: 0, row: 0 });
  const start = (event: PointerEvent<HTMLElement>, row: number): void => {
    if (event.button !== 0) return;
    event.preventDefault();
    const handle = event.currentTarget;
    from.current = { y: event.clientY, row };
    handle.setPointerCapture(event.pointerId);
    setDragged({ row, to: row });
    const at = ({ clientY }: { clientY: number }): number =>
      Math.min(rows - 1, Math.max(0, row + Math.round((clientY - from.current.y) / ROW_PX)));
    const move = (moved: globalThis.PointerEvent): void => setDragged({ row, to: at(moved) });
    const end =
      (dropped: boolean) =>
      (last: Event): void => {
        for (const [name, listener] of listeners) handle.removeEventListener(name, listener as EventListener);
        window.removeEventListener('keydown', onKey);
        setDragged(null);
        if (dropped) onDrop(row, at(last as globalThis.PointerEvent));
      };
    const drop = end(true);
    const leave = end(false);
    const onKey = (pressed: KeyboardEvent): void => {
      if (pressed.key === 'Escape') leave(pressed);
    };
    const listeners = [
      ['pointermove', move],
      ['pointerup', drop],
      ['pointercancel', leave],
    ] as const;
    for (const [name, listener] of listeners) handle.addEventListener(name, listener as EventListener);
    window.addEventListener('keydown', onKey);
  };
  return { dragged, start };
}

/** The place of a row, which is also what it is dragged by. */
function Place({
  row,
  pinned,
  onGrab,
}: {
  row: number;
  pinned: boolean;
  onGrab?: (event: PointerEvent<HTMLElement>) => void;
}) {
  return (
    <span
      data-part="place"
      title={onGrab && 'Drag it to the rank where it shall be pinned'}
      className={clsx(
        'figures flex w-7 shrink-0 touch-none items-center justify-end pr-1 text-xs select-none',
        pinned ? 'text-plum' : 'text-soft',
        onGrab && 'cursor-grab hover:bg-sunk hover:text-ink active:cursor-grabbing',
      )}
      onPointerDown={onGrab}
    >
      {row + 1}
    </span>
  );
}

const TONES: Record<Movement['kind'], string> = {
  rises: 'text-agave',
  falls: 'text-clay',
  enters: 'text-agave',
  leaves: 'text-soft',
  same: 'text-soft',
};

function Row({
  result,
  card,
  movement,
  versions,
  title,
  open,
  onExplain,
}: {
  result: SearchResult;
  card: Card;
  movement: Movement | undefined;
  versions: ColumnProps['versions'];
  title: string;
  /** It is being explained. */
  open: boolean;
  onExplain: (id: string, button: HTMLElement) => void;
}) {
  const moved = movement && versions && movedWords(movement, ...versions);
  return (
    <button
      type="button"
      title={title}
      data-part="result"
      aria-haspopup="dialog"
      aria-expanded={open}
      className="flex h-full min-w-0 flex-1 items-center gap-2 pl-1 text-left text-[13px] leading-4 hover:bg-sunk"
      onClick={(event) => onExplain(result.id, event.currentTarget)}
    >
      <HitLine hit={shownHit(result, card)} size={32} short />
      {result.pinned && <span className="shrink-0 text-xs text-plum">pinned</span>}
      {result.others !== undefined && (
        <span className="figures shrink-0 text-xs text-soft" title="More of the same group">
          +{result.others}
        </span>
      )}
      {moved && movement.kind !== 'same' && (
        <span className={clsx('figures shrink-0 text-xs', TONES[movement.kind])}>
          <span aria-hidden="true">{moved.sign}</span>
          <span className="sr-only">{moved.words}</span>
        </span>
      )}
      {result.why && (
        <span className="figures w-9 shrink-0 text-right text-xs text-soft">{result.why.score.toFixed(1)}</span>
      )}
    </button>
  );
}

interface Explained {
  id: string;
  /** What it was asked from, where the explanation stands. */
  button: HTMLElement;
}

/**
 * Why a result stands where it does, and what can be done about it: one for the column, at the row it was asked from.
 */
function Why({
  explained: { id, button },
  results,
  card,
  hand,
  onClose,
}: {
  explained: Explained;
  results: readonly SearchResult[];
  card: Card;
  hand: ColumnProps['hand'];
  onClose: () => void;
}) {
  const wentOn = useRef(false);
  const row = results.findIndex((one) => one.id === id);
  const result = results[row];
  // A result that has left is not explained again when it comes back.
  useEffect(() => {
    if (row === -1) onClose();
  }, [row, onClose]);
  if (!result) return null;
  return (
    <Popover.Root open onOpenChange={(open) => !open && onClose()}>
      <Popover.Anchor virtualRef={{ current: button }} />
      <Popover.Portal>
        <Popover.Content
          side="bottom"
          align="start"
          collisionPadding={12}
          aria-label="Why it is here"
          className="z-20 max-h-(--radix-popover-content-available-height) w-[400px] overflow-y-auto rounded-md border border-line bg-paper p-4"
          // A press on a row asks for that one instead, or closes this one; who goes on elsewhere is not called back.
          onInteractOutside={(event) => {
            if ((event.target as HTMLElement).closest('[data-part="result"]')) event.preventDefault();
            else wentOn.current = true;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!wentOn.current) button.focus();
          }}
        >
          <div key={id}>
            {result.why ? (
              <Explanation result={result} why={result.why} row={row} others={results} card={card} />
            ) : (
              <p className="text-[13px]">
                <span className="figures text-soft">{result.id}</span> stands here because it is pinned.
              </p>
            )}
            {hand && <RowActions {...hand} result={result} row={row} onDone={onClose} />}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
