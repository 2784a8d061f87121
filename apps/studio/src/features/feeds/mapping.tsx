import type { Feed, FeedMapping, FeedMappingStep, FeedPreviewAnswer } from '@yucca/contract';
import { useState } from 'react';
import { api } from '@/ui/api';
import { Button } from '@/ui/button';
import { Check } from '@/ui/controls';
import { counted } from '@/ui/format';
import { argumentOf, stepBy, wayOf, WAYS, withArgument, type Way } from './mapping-steps';
import { PreviewTable } from './preview-table';

/** What the records become on their way: fields named anew, picked, joined, read; tried on real records before. */
export function Mapping({ feed, onChanged }: { feed: Feed; onChanged: () => void }) {
  const [open, setOpen] = useState(false);
  const [steps, setSteps] = useState<FeedMapping>(feed.mapping);
  const [preview, setPreview] = useState<FeedPreviewAnswer | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const isAsked = feed.source.kind !== 'webhook';
  const fields = steps.filter(({ field }) => field !== '*');
  const keepsOthers = steps.length === 0 || steps.some(({ field }) => field === '*');
  const mapping: FeedMapping =
    fields.length === 0 && keepsOthers ? [] : [...(keepsOthers ? [{ field: '*' }] : []), ...fields];
  const put = (next: FeedMappingStep[], others = keepsOthers): void => {
    setSteps([...(others ? [{ field: '*' }] : []), ...next]);
    setPreview(null);
  };
  const change = (at: number, step: FeedMappingStep): void => put(fields.map((one, i) => (i === at ? step : one)));
  const doing = (work: Promise<void>): void => {
    setBusy(true);
    setProblem(null);
    work.catch((error: Error) => setProblem(error.message)).finally(() => setBusy(false));
  };
  const look = (): void =>
    doing(
      api<FeedPreviewAnswer>('/feeds/preview', { method: 'POST', json: { source: feed.source, mapping, feed: feed.id } }).then(setPreview), // prettier-ignore
    );
  const save = (): void =>
    doing(
      api<Feed>(`/feeds/${feed.id}`, { method: 'PATCH', json: { mapping } }).then(() => {
        setOpen(false);
        onChanged();
      }),
    );
  const words = feed.mapping.length === 0 ? 'Records are stored as they come.' : `${counted(feed.mapping.filter(({ field }) => field !== '*').length, 'field')} made on the way.`; // prettier-ignore
  return (
    <section aria-label="Mapping" className="border-t border-line px-4 py-3">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="text-[15px] font-semibold">Mapping</h3>
        <span className="text-soft">{words}</span>
        <Button
          className="ml-auto"
          aria-expanded={open}
          onClick={() => {
            setSteps(feed.mapping);
            setOpen(!open);
          }}
        >
          {open ? 'Cancel' : 'Change …'}
        </Button>
      </div>
      {open && (
        <div className="mt-3 grid gap-3">
          <table className="text-[13px]">
            <thead>
              <tr className="bg-sunk text-left">
                {['Field', 'Made of (JSON Pointers, with commas)', 'How', '', ''].map((head) => (
                  <th key={head} scope="col" className="px-2 py-1 font-medium">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {fields.map((step, i) => (
                <Step
                  key={i}
                  step={step}
                  onStep={(next) => change(i, next)}
                  onRemove={() => put(fields.filter((_, at) => at !== i))}
                />
              ))}
            </tbody>
          </table>
          <div className="flex flex-wrap items-center gap-4">
            <Button onClick={() => put([...fields, { field: '', from: [''] }])}>Add a field</Button>
            <Check label="Keep all other fields" on={keepsOthers} onValue={(on) => put(fields, on)} />
            <span className="ml-auto flex gap-3">
              <Button disabled={busy} onClick={look}>
                Try it on its records
              </Button>
              <Button kind="primary" disabled={busy} onClick={save}>
                {isAsked ? 'Save, and read everything again' : 'Save, for what comes from now on'}
              </Button>
            </span>
          </div>
          {problem && (
            <p role="alert" className="text-madder">
              {problem}
            </p>
          )}
          {preview?.records.length === 0 && <p className="text-soft">No whole record has come yet to try it on.</p>}
          {preview && <PreviewTable records={preview.records} showsBefore />}
        </div>
      )}
    </section>
  );
}

function Step({
  step,
  onStep,
  onRemove,
}: {
  step: FeedMappingStep;
  onStep: (step: FeedMappingStep) => void;
  onRemove: () => void;
}) {
  const way = wayOf(step);
  const { argument } = WAYS[way];
  const cell = (label: string, value: string, onValue: (value: string) => void, className = 'w-40') => (
    <td className="px-1 py-1">
      <input
        className={`field figures py-0.5 ${className}`}
        aria-label={label}
        value={value}
        onChange={(event) => onValue(event.target.value)}
      />
    </td>
  );
  return (
    <tr className="border-b border-line">
      {cell('Field', step.field, (field) => onStep({ ...step, field }))}
      {way === 'constant' ? (
        <td className="px-2 py-1 text-soft">nothing that comes</td>
      ) : (
        cell('Made of', step.from?.join(', ') ?? '', (text) => onStep({ ...step, from: text.split(/\s*,\s*/) }), 'w-64')
      )}
      <td className="px-1 py-1">
        <select
          className="field py-0.5"
          aria-label="How"
          value={way}
          onChange={(event) => onStep(stepBy(step, event.target.value as Way))}
        >
          {Object.entries(WAYS).map(([name, { words }]) => (
            <option key={name} value={name}>
              {words}
            </option>
          ))}
        </select>
      </td>
      {argument === null ? <td /> : cell(argument, argumentOf(step), (text) => onStep(withArgument(step, text)))}
      <td className="px-1 py-1">
        <button type="button" className="link" aria-label={`Remove ${step.field}`} onClick={onRemove}>
          Remove
        </button>
      </td>
    </tr>
  );
}
