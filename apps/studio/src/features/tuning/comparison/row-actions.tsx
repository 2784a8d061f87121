'use client';

import type { SearchResult } from '@yucca/contract';
import { useState } from 'react';
import { api } from '@/ui/api';
import { useDraftStore } from '../draft';
import { withHidden, withoutPin, withPin } from '../placements/placements';

const MOST_PLACE = 1000;

/** What a hand can do with a result of the draft: pin it at a place, hide it, or say that it should stand first. */
export function RowActions({
  result,
  row,
  text,
  collection,
  onDone,
}: {
  result: SearchResult;
  /** Its row, from 0. */
  row: number;
  /** The query it is a result of. */
  text: string;
  collection: string;
  onDone: () => void;
}) {
  const store = useDraftStore();
  const [place, setPlace] = useState(String(row === 0 ? 1 : row));
  const [said, setSaid] = useState<string | null>(null);
  const { id, pinned } = result;
  const act = (change: Parameters<typeof store.change>[0]): void => {
    store.change(change);
    onDone();
  };
  const first = async (): Promise<void> => {
    try {
      await api(`/collections/${collection}/judgements`, {
        method: 'PATCH',
        json: { judgements: [{ query: text, grades: { [id]: 3 } }] },
      });
      setSaid('Judged: it should come up first.');
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  const query = text.trim() === '' ? 'the empty query' : `“${text.trim()}”`;
  return (
    <div className="mt-3 border-t border-line pt-2 text-[13px]">
      <p className="mb-1 text-soft">For {query}, whatever the numbers say:</p>
      <form
        className="flex flex-wrap items-center gap-x-3 gap-y-1"
        onSubmit={(event) => {
          event.preventDefault();
          act((now) => withPin(now, text, id, Math.min(MOST_PLACE, Math.max(1, Number(place) || 1))));
        }}
      >
        <span className="flex items-center gap-1">
          <button type="submit" className="link min-h-6">
            Pin at place
          </button>
          <input
            aria-label="Rank"
            type="number"
            min={1}
            max={MOST_PLACE}
            className="field figures h-7 min-h-0 w-14 px-1 py-0"
            value={place}
            onChange={(event) => setPlace(event.target.value)}
          />
        </span>
        {pinned && (
          <button type="button" className="link min-h-6" onClick={() => act((now) => withoutPin(now, text, id))}>
            Take the pin off
          </button>
        )}
        <button type="button" className="link min-h-6" onClick={() => act((now) => withHidden(now, text, id))}>
          Hide it
        </button>
        {text.trim() !== '' && (
          <button type="button" className="link min-h-6" onClick={() => void first()}>
            Judge: this first
          </button>
        )}
      </form>
      {said && <p role="status">{said}</p>}
    </div>
  );
}
