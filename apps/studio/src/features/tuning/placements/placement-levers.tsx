'use client';

import type { PlacementDocument } from '@yucca/contract';
import { useState } from 'react';
import { Button } from '@/ui/button';
import { useDraft } from '../draft';
import { RemoveButton } from '@/ui/controls';
import { Calendar } from './calendar';
import { PlacementForm } from './placement-form';
import { freeName, isOn, whatWords, whenWords, withoutPlacement } from './placements';

/** Placements shown at a time. */
const SHOWN = 20;

export interface PlacementLeversProps {
  collection: string;
  text: string;
  /** The day whose placements are shown (ISO 8601); empty = today. */
  on: string;
  /** Puts a query into the probe as it would be answered on a day. */
  onShow: (text: string, on: string) => void;
}

export function PlacementLevers({ collection, text, on, onShow }: PlacementLeversProps) {
  const [{ document }, store] = useDraft();
  const [editing, setEditing] = useState<{ name: string | null; placement: PlacementDocument } | null>(null);
  const placements = document.placements ?? [];
  const day = on === '' ? new Date().toISOString().slice(0, 10) : on;
  const start = (): void =>
    setEditing({ name: null, placement: { name: freeName(text, placements), when: { query: text.trim() } } });
  return (
    <>
      {placements.length === 0 && (
        <p className="text-[13px] text-soft">
          None yet. Drag a result of the draft by its place to pin it for the query, or write one.
        </p>
      )}
      <ul className="text-[13px]">
        {placements.slice(0, SHOWN).map((placement) => (
          <li key={placement.name} className="flex items-start gap-1 border-b border-line py-1 last:border-b-0">
            <button
              type="button"
              className="min-w-0 flex-1 rounded text-left hover:bg-sunk"
              title="Edit this placement"
              onClick={() => setEditing({ name: placement.name, placement })}
            >
              <span className="block truncate font-medium text-plum">{placement.name}</span>
              <span className="block text-xs text-soft">
                {whenWords(placement)}: {whatWords(placement)}
                {!isOn(placement, day) && ' (not on that day)'}
              </span>
            </button>
            {placement.when.query !== undefined && (
              <button
                type="button"
                className="link min-h-6 shrink-0 text-xs"
                title="Put its query into the probe, on its first day"
                onClick={() => onShow(placement.when.query!, placement.when.from ?? on)}
              >
                show
              </button>
            )}
            <RemoveButton
              what={`placement ${placement.name}`}
              onRemove={() => store.change((now) => withoutPlacement(now, placement.name))}
            />
          </li>
        ))}
      </ul>
      {placements.length > SHOWN && <p className="text-xs text-soft">and {placements.length - SHOWN} more</p>}
      <p className="flex flex-wrap gap-2">
        <Button onClick={start}>
          {text.trim() === '' ? 'New placement …' : `New placement for “${text.trim().slice(0, 20)}” …`}
        </Button>
        {placements.some(({ when }) => when.from !== undefined || when.to !== undefined) && (
          <Calendar placements={placements} today={day} onShow={onShow} />
        )}
      </p>
      {editing && (
        <PlacementForm
          key={editing.placement.name}
          collection={collection}
          name={editing.name}
          start={editing.placement}
          onClose={() => setEditing(null)}
        />
      )}
    </>
  );
}
