'use client';

import { facetValues, type Card, type SearchAnswer } from '@yucca/contract';
import { createClient, EMPTY_QUERY, withText, withToggled, type SearchSnapshot } from '@yucca/kit';
import { useSearch } from '@yucca/kit/react';
import clsx from 'clsx';
import { useEffect } from 'react';
import { shownHit } from '@yucca/kit';
import { count, counted, milliseconds } from '@/ui/format';
import { useParam } from '@/ui/use-param';
import { HitLine } from './hit-line';
import { reportProbe } from './last-probe';
import { ProbeInput } from './probe-input';

const client = createClient({ cache: { most: 0 } });

/** The query you care about and its live results, beside whatever you are doing. `/` puts the cursor into it. */
export function Probe({
  collection,
  card,
  facets,
  generation,
  version = 'live',
  onOpen,
}: {
  collection: string;
  card: Card;
  facets: string[];
  generation: number;
  /** Which tuning answers. */
  version?: 'live' | 'draft';
  onOpen: (id: string) => void;
}) {
  const [text, setText] = useParam('probe');
  const [snapshot, search] = useSearch(() => ({
    client,
    collection,
    query: withText(EMPTY_QUERY, text),
  }));
  const withFacets = facets.length > 0;
  useEffect(
    () => search.change({ size: 30, facets: withFacets ? ['*'] : [], version }),
    [search, generation, withFacets, version],
  );
  useEffect(() => search.ask(withText(search.snapshot().query, text)), [search, text]);
  useEffect(() => {
    if (snapshot.answer) reportProbe({ engineMs: snapshot.answer.timing.engineMs });
  }, [snapshot.answer]);
  const { answer } = snapshot;
  return (
    <aside aria-label="Probe" className="flex w-[360px] shrink-0 flex-col border-l border-line bg-raised">
      <div className="border-b border-line p-3">
        <label htmlFor="probe" className="mb-1 flex justify-between font-head font-semibold">
          <span>
            Probe{' '}
            <span className={clsx('font-sans text-xs font-normal', version === 'draft' ? 'text-clay' : 'text-agave')}>
              {version === 'draft' ? '◇ draft' : '◆ live'}
            </span>
          </span>
          <kbd className="figures rounded border border-line px-1.5 text-xs font-normal text-soft">/</kbd>
        </label>
        <ProbeInput id="probe" text={text} onText={setText} placeholder="Type what a visitor would type" />
        <ProbeLine snapshot={snapshot} />
      </div>
      <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Results of the probe">
        {answer && <ProbeResults answer={answer} card={card} onOpen={onOpen} dim={snapshot.status === 'failed'} />}
      </div>
      {answer && facets.length > 0 && (
        <ProbeFacets
          answer={answer}
          onToggle={(facet, value) => search.ask(withToggled(search.snapshot().query, facet, value))}
        />
      )}
    </aside>
  );
}

function ProbeLine({ snapshot: { answer, status, error } }: { snapshot: SearchSnapshot }) {
  if (status === 'failed')
    return (
      <p role="alert" className="mt-2 text-madder">
        {error?.message || 'The search did not answer.'}
      </p>
    );
  if (!answer) return <p className="mt-2 h-5" />;
  const misspelt = answer.understood.words.filter(({ typo }) => typo);
  return (
    <div className="mt-2 flex flex-wrap justify-between gap-x-3 text-soft">
      <p aria-live="polite" className="figures text-xs leading-5">
        <strong className="font-medium text-ink">{counted(answer.total, 'result')}</strong> in{' '}
        {milliseconds(answer.timing.totalMs)}
      </p>
      {answer.understood.unsearched && (
        <p className="w-full text-xs leading-5" title={answer.understood.unsearched.join(', ')}>
          {counted(answer.understood.unsearched.length, 'text field')} not searched, such as{' '}
          {answer.understood.unsearched[0]}: name the fields to search under Fields.
        </p>
      )}
      {misspelt.length > 0 && (
        <p className="text-xs leading-5">
          {misspelt.map(({ text, as }) => `“${text}” read as ${as.slice(0, 3).join(', ')}`).join('; ')}
        </p>
      )}
    </div>
  );
}

function ProbeResults({
  answer,
  card,
  onOpen,
  dim,
}: {
  answer: SearchAnswer;
  card: Card;
  onOpen: (id: string) => void;
  dim: boolean;
}) {
  if (answer.total === 0) {
    return <p className="p-4 text-soft">Nothing matches “{answer.query}”. Try fewer or other words.</p>;
  }
  return (
    <ol className={clsx(dim && 'opacity-60')}>
      {answer.results.map((result, i) => (
        <li key={result.id}>
          <button
            type="button"
            onClick={() => onOpen(result.id)}
            className="flex w-full gap-3 border-b border-line px-3 py-2 text-left hover:bg-sunk"
          >
            <span className="figures w-5 shrink-0 pt-px text-right text-xs text-soft">{i + 1}</span>
            <HitLine hit={shownHit(result, card)} size={36} />
          </button>
        </li>
      ))}
      {answer.total > answer.results.length && (
        <li className="p-3 text-xs text-soft">and {count(answer.total - answer.results.length)} more</li>
      )}
    </ol>
  );
}

function ProbeFacets({ answer, onToggle }: { answer: SearchAnswer; onToggle: (facet: string, value: string) => void }) {
  return (
    <details className="max-h-[45%] overflow-y-auto border-t border-line">
      <summary className="px-3 py-2 font-medium">Facets</summary>
      <div className="px-3 pb-3">
        {Object.entries(answer.facets).map(([name, facet]) => (
          <fieldset key={name} className="mb-2">
            <legend className="text-xs font-medium text-soft">{facet.label}</legend>
            {facet.kind === 'numbers' && facet.min !== null && facet.max !== null && (
              <p className="figures text-xs leading-6">
                {count(facet.min)} to {count(facet.max)}
                {facet.notNumbers > 0 && ` · ${count(facet.notNumbers)} hold no number`}
              </p>
            )}
            {facetValues(facet)
              .slice(0, 8)
              .map(({ value, label, count: found, selected }) => (
                <label key={value} className="flex min-h-6 items-center gap-2">
                  <input type="checkbox" checked={selected} onChange={() => onToggle(name, value)} />
                  <span className="truncate">{label}</span>
                  <span className="figures ml-auto text-xs text-soft">{count(found)}</span>
                </label>
              ))}
          </fieldset>
        ))}
      </div>
    </details>
  );
}
