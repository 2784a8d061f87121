'use client';

import type { FieldProfile, TuningDocument } from '@yucca/contract';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { withFacet } from '@/features/fields/roles';
import { useProfile } from '@/features/profile/use-profile';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import type { PageFacts } from '../facts';

type State =
  { step: 'choose' } | { step: 'busy' | 'drafted' | 'published'; field: string } | { step: 'failed'; problem: string };

/** What a field holds, as far as there is room: its commonest values, or its range. */
function valuesOf({ top, numbers, dates, samples }: FieldProfile): string {
  if (numbers) return `${numbers.min} to ${numbers.max}`;
  if (dates) return `${dates.from} to ${dates.to}`;
  const values = top.length > 0 ? top.map(({ value, count }) => `${value} (${count})`) : samples.map(String);
  return values.slice(0, 4).join(', ');
}

/**
 * Makes any field of the data a filter. Facets are of the tuning, for every page of the collection: the field goes into
 * its draft first, and pages offer it when that is published.
 */
export function FieldAsFilter({ facts, onPublished }: { facts: PageFacts; onPublished: (facet: string) => void }) {
  const router = useRouter();
  const { profile } = useProfile(facts.collection, facts.generation);
  const [chosen, setChosen] = useState('');
  const [state, setState] = useState<State>({ step: 'choose' });
  const path = `/collections/${encodeURIComponent(facts.collection)}/tuning`;
  const known = new Set(facts.parts.facets.map(({ field }) => field));
  const fields = (profile?.fields ?? []).filter((field) => !known.has(field.path));
  const field = fields.find((one) => one.path === chosen);
  const draft = async (): Promise<void> => {
    if (!field) return;
    setState({ step: 'busy', field: field.path });
    try {
      const before = await api<TuningDocument>(`${path}?version=draft`);
      const { facet } = field.proposal;
      const kind = facet?.kind ?? (field.numbers ? 'numbers' : field.dates ? 'dates' : 'values');
      const { facets } = withFacet(before, field.path, kind, facet);
      await api(`${path}/draft`, { method: 'PATCH', json: { facets } });
      setState({ step: 'drafted', field: field.path });
    } catch (error) {
      setState({ step: 'failed', problem: (error as Error).message });
    }
  };
  const publish = async (of: string): Promise<void> => {
    setState({ step: 'busy', field: of });
    try {
      const { facets = [] } = await api<TuningDocument>(`${path}?version=draft`);
      await api(`${path}/publish`, { method: 'POST', json: { note: `${of} is a filter` } });
      setState({ step: 'published', field: of });
      setChosen('');
      router.refresh();
      const made = facets.find((facet) => facet.field === of);
      if (made) onPublished(made.name);
    } catch (error) {
      setState({ step: 'failed', problem: (error as Error).message });
    }
  };
  return (
    <div className="grid gap-1 text-[13px]">
      <label className="grid gap-1">
        A field as a filter
        <select
          className="field py-0.5 text-[13px]"
          value={chosen}
          onChange={({ target }) => {
            setChosen(target.value);
            setState({ step: 'choose' });
          }}
        >
          <option value="">{profile && fields.length === 0 ? 'all fields are' : 'Choose a field …'}</option>
          {fields.map((one) => (
            <option key={one.path}>{one.path}</option>
          ))}
        </select>
      </label>
      {field && <p className="line-clamp-2 text-xs text-soft">{valuesOf(field)}</p>}
      {field && state.step === 'choose' && (
        <p>
          <Button onClick={() => void draft()}>Take it into the tuning’s draft</Button>
        </p>
      )}
      <div role="status">
        {state.step === 'busy' && <p className="text-soft">One moment …</p>}
        {state.step === 'drafted' && (
          <p>
            {state.field} is in the draft of the{' '}
            <Link href={`/c/${facts.collection}/tuning`} className="link">
              tuning
            </Link>
            , with whatever else waits there. Pages offer it once that is published.{' '}
            <button type="button" className="link" onClick={() => void publish(state.field)}>
              Publish the tuning
            </button>
          </p>
        )}
        {state.step === 'published' && <p className="text-soft">{state.field} is a filter now.</p>}
        {state.step === 'failed' && <p className="text-madder">{state.problem}</p>}
      </div>
    </div>
  );
}
