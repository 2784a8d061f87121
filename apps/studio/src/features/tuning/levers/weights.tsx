'use client';

import type { Tuning } from '@yucca/contract';
import Link from 'next/link';
import { memo } from 'react';
import { useDraftStore } from '../draft';
import { withFieldWeight } from '../levers';
import { Slider } from '@/ui/controls';

export const Weights = memo(function Weights({ tuning, collection }: { tuning: Tuning; collection: string }) {
  const store = useDraftStore();
  const fields = [...tuning.search].sort((a, b) => b.weight - a.weight);
  if (fields.length === 0)
    return (
      <p className="text-[13px] text-soft">
        All text fields are searched alike.{' '}
        <Link className="link" href={`/c/${collection}/fields`}>
          Choose fields
        </Link>
      </p>
    );
  return (
    <>
      {fields.map(({ field, weight }) => (
        <Slider
          key={field}
          label={field}
          min={0.5}
          max={20}
          most={1000}
          step={0.5}
          value={weight}
          onValue={(next) => store.change((now) => withFieldWeight(now, field, next), { gesture: `weight ${field}` })}
        />
      ))}
    </>
  );
});
