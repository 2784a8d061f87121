'use client';

import type { FieldProfile } from '@yucca/contract';
import { count, counted } from '@/ui/format';
import { coverage, distinctWords, typeWords } from './facts';
import { FieldChart, FieldWords } from './field-chart';
import type { ProfileState } from './use-profile';
import { Warnings } from './warnings';

/** What is in the data: every field with its types, how its values are spread, examples, and what needs a look. */
export function ProfileView({ collection, state: { profile, problem } }: { collection: string; state: ProfileState }) {
  if (profile === null)
    return problem === null ? (
      <p role="status" className="p-6 text-soft">
        Looking through the records …
      </p>
    ) : (
      <p role="alert" className="p-6 text-madder">
        {problem}
      </p>
    );
  const warned = profile.fields.filter(({ warnings }) => warnings.length > 0);
  const warnings = warned.reduce((sum, field) => sum + field.warnings.length, 0);
  return (
    <div
      className="min-h-0 flex-1 overflow-y-auto border-t border-line"
      tabIndex={0}
      role="region"
      aria-label="Profile"
    >
      <p className="px-6 pt-3 pb-2 text-soft">
        {counted(profile.fields.length, 'field')} in {counted(profile.records, 'record')}, looked through in{' '}
        {count(profile.tookMs)} ms.{' '}
        {warnings === 0
          ? 'Nothing needs a look.'
          : `${counted(warnings, 'thing')} ${warnings === 1 ? 'needs' : 'need'} a look: ${warned.map(({ path }) => path).join(', ')}.`}
      </p>
      {profile.warnings.map(({ code, detail, examples }) => (
        <p key={code} className="mx-6 mb-2 border-l-2 border-clay pl-2">
          {detail} <span className="figures text-soft">{examples.join(', ')}</span>
        </p>
      ))}
      <ul>
        {profile.fields.map((field) => (
          <FieldLine key={field.path} collection={collection} field={field} />
        ))}
      </ul>
    </div>
  );
}

function FieldLine({ collection, field }: { collection: string; field: FieldProfile }) {
  return (
    <li className="grid grid-cols-[190px_260px_1fr] gap-6 border-t border-line px-6 py-3" id={`field-${field.path}`}>
      <div className="min-w-0">
        <h2 className="figures truncate text-[13px] font-medium" title={field.path}>
          {field.path}
        </h2>
        <p className="text-[13px] text-soft">{typeWords(field)}</p>
        <p className="figures text-xs text-soft">
          {coverage(field)} of records
          {field.most > 1 && `, up to ${count(field.most)} each`}
        </p>
        {field.distinct > 0 && <p className="figures text-xs text-soft">{distinctWords(field)}</p>}
      </div>
      <div className="min-w-0">{field.distinct > 0 && <FieldChart field={field} />}</div>
      <div className="min-w-0">
        <p>
          <FieldWords field={field} />
        </p>
        <p className="mb-1 line-clamp-2 text-[13px] break-words">
          {field.samples
            .slice(0, 4)
            .map((value) => String(value))
            .join(' · ')}
        </p>
        <Warnings collection={collection} field={field} />
      </div>
    </li>
  );
}
