'use client';

import type { PlacementDocument } from '@yucca/contract';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { Button } from '@/ui/button';
import { whatWords, whenWords } from './placements';
import { monthsFrom, shareOf, spanOf } from './calendar-days';

const MONTHS = 12;

/** What is on when: the placements with dates over a year, and those that are always on. */
export function Calendar({
  placements,
  today,
  onShow,
}: {
  placements: readonly PlacementDocument[];
  /** ISO 8601. */
  today: string;
  onShow: (text: string, on: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [shift, setShift] = useState(0);
  const months = monthsFrom(today, shift, MONTHS);
  const dated = placements.filter(({ when }) => when.from !== undefined || when.to !== undefined);
  const always = placements.filter((placement) => !dated.includes(placement));
  const show = (placement: PlacementDocument): void => {
    setOpen(false);
    const { from, to, query = '' } = placement.when;
    const isNow = (from === undefined || from <= today) && (to === undefined || to >= today);
    onShow(query, isNow ? today : (from ?? to!));
  };
  const mark = shareOf(months, today);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger asChild>
        <Button>Calendar …</Button>
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-[#101412]/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 z-30 max-h-[84vh] w-[960px] -translate-x-1/2 overflow-y-auto rounded-md border border-line bg-paper p-6"
        >
          <div className="mb-4 flex items-center gap-3">
            <Dialog.Title className="text-[20px] leading-7">What is on when</Dialog.Title>
            <span className="ml-auto flex gap-2">
              <Button onClick={() => setShift(shift - MONTHS / 2)}>Earlier</Button>
              <Button onClick={() => setShift(0)} disabled={shift === 0}>
                From now
              </Button>
              <Button onClick={() => setShift(shift + MONTHS / 2)}>Later</Button>
              <Dialog.Close asChild>
                <Button>Close</Button>
              </Dialog.Close>
            </span>
          </div>
          <div className="grid grid-cols-[200px_1fr]">
            <span />
            <div className="figures grid grid-cols-12 border-b border-line text-xs text-soft" aria-hidden="true">
              {months.map(({ start, label }) => (
                <span key={start} className="border-l border-line pl-1">
                  {label}
                </span>
              ))}
            </div>
            {dated.map((placement) => {
              const span = spanOf(months, placement.when);
              return (
                <div key={placement.name} className="contents">
                  <span className="truncate border-b border-line py-1 pr-2 text-[13px]" title={whenWords(placement)}>
                    {placement.name}
                  </span>
                  <div className="relative h-8 border-b border-line">
                    <div className="absolute inset-0 grid grid-cols-12" aria-hidden="true">
                      {months.map(({ start }) => (
                        <span key={start} className="border-l border-line" />
                      ))}
                    </div>
                    {mark !== null && (
                      <span
                        aria-hidden="true"
                        className="absolute inset-y-0 border-l-2 border-agave"
                        style={{ left: `${mark * 100}%` }}
                      />
                    )}
                    {span && (
                      <button
                        type="button"
                        className="absolute top-1 h-6 overflow-hidden rounded border border-plum bg-raised px-1.5 text-left text-xs whitespace-nowrap text-plum"
                        style={{ left: `${span.from * 100}%`, width: `max(24px, ${(span.to - span.from) * 100}%)` }}
                        title={`${whenWords(placement)}: ${whatWords(placement)}. Press to see it.`}
                        onClick={() => show(placement)}
                      >
                        {whatWords(placement)}
                      </button>
                    )}
                  </div>
                </div>
              );
            })}
          </div>
          {always.length > 0 && (
            <p className="mt-4 text-[13px] text-soft">Always on: {always.map(({ name }) => name).join(', ')}.</p>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
