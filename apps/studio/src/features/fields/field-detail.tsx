'use client';

import { readableName, type FieldProfile, type TuningDocument } from '@yucca/contract';
import { STEMMED } from '@yucca/engine/plan';
import { useState } from 'react';
import { FieldChart, FieldWords } from '@/features/profile/field-chart';
import { Warnings } from '@/features/profile/warnings';
import { byName, languageName } from '@/ui/language-name';
import { Proposed, type CellProps } from './role-cells';
import {
  openProposals,
  rolesOf,
  withExact,
  withFacetPart,
  withGeo,
  withHtml,
  withLanguage,
  withLanguageField,
  type FacetChange,
} from './roles';

type Facet = NonNullable<TuningDocument['facets']>[number];

/** Everything else about a field: what is in it, and the finer choices of its roles. */
export function FieldDetail({ collection, ...props }: CellProps & { collection: string }) {
  const { field, document, change } = props;
  const roles = rolesOf(document, field);
  const facet = document.facets?.find((one) => one.field === field.path);
  return (
    <div className="grid grid-cols-[250px_1fr] gap-6 border-l-2 border-agave bg-raised px-4 py-3">
      <div className="min-w-0">
        {field.distinct > 0 && <FieldChart field={field} />}
        <FieldWords field={field} />
      </div>
      <div className="grid min-w-0 content-start gap-3">
        <p className="line-clamp-2 text-[13px] break-words">{field.samples.slice(0, 5).map(String).join(' · ')}</p>
        <Warnings collection={collection} field={field} />
        <div className="flex flex-wrap gap-x-5 gap-y-1">
          {roles.search && (
            <Option
              label="No typos here"
              title="No typo tolerance: codes and names that must be typed exactly"
              on={roles.exact}
              set={(on) => change((now) => withExact(now, field.path, on))}
            />
          )}
          {(field.proposal.html || roles.html) && (
            <Option
              label="Holds HTML"
              title="Tags are not words"
              on={roles.html}
              set={(on) => change((now) => withHtml(now, field.path, on))}
            />
          )}
          {(field.proposal.language?.of === 'records' || roles.tellsLanguage) && (
            <Option
              label="Tells its record’s language"
              title={field.proposal.language?.reason ?? ''}
              on={roles.tellsLanguage}
              set={(on) =>
                change((now) => withLanguageField(now, on ? field.path : null, field.proposal.language?.languages))
              }
            />
          )}
          {(field.proposal.geo || roles.geo) && (
            <Option
              label="Position for “near me”"
              title={field.proposal.geo?.reason ?? ''}
              on={roles.geo}
              set={(on) => change((now) => withGeo(now, field.path, on))}
            />
          )}
          {roles.search && (field.types.string ?? 0) > 0 && (
            <TextLanguage
              main={document.language ?? 'en'}
              language={roles.language}
              proposed={openProposals(document, field).includes('language') ? field.proposal.language : null}
              set={(language) => change((now) => withLanguage(now, field.path, language))}
            />
          )}
        </div>
        {facet && <FacetOptions key={field.path} facet={facet} {...props} />}
      </div>
    </div>
  );
}

function Option({ label, title, on, set }: { label: string; title: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="flex min-h-6 items-center gap-2" title={title}>
      <input type="checkbox" checked={on} onChange={(event) => set(event.target.checked)} />
      {label}
    </label>
  );
}

/** In which language a field's texts are: its stems, spellings and compounds. */
function TextLanguage({
  main,
  language,
  proposed,
  set,
}: {
  main: string;
  language: string | null;
  proposed: FieldProfile['proposal']['language'];
  set: (language: string | null) => void;
}) {
  const offered = [...new Set([...STEMMED, ...(language === null ? [] : [language])])].filter((tag) => tag !== main);
  return (
    <div className="flex items-center gap-2">
      <label className="flex min-h-6 items-center gap-2">
        Language
        <select
          className="field py-0.5"
          value={language ?? ''}
          onChange={(event) => set(event.target.value === '' ? null : event.target.value)}
        >
          <option value="">{languageName(main)}, as all texts</option>
          {byName(offered).map((tag) => (
            <option key={tag} value={tag}>
              {languageName(tag)}
            </option>
          ))}
        </select>
      </label>
      {proposed?.of === 'texts' && (
        <Proposed label="Language" reason={proposed.reason} take={() => set(proposed.languages[0]!)}>
          {languageName(proposed.languages[0]!)}
        </Proposed>
      )}
    </div>
  );
}

/** How a facet is offered: its title, how many values, and what belongs to its kind. */
function FacetOptions({ facet, field, fields, change }: CellProps & { facet: Facet }) {
  const set = (part: FacetChange): void =>
    change((now) => withFacetPart(now, field.path, part), {
      gesture: `facet ${field.path} ${Object.keys(part).join()}`,
    });
  const kind = facet.kind ?? 'values';
  return (
    <fieldset className="flex flex-wrap items-end gap-3">
      <legend className="mb-1 font-medium">
        Facet <span className="figures font-normal text-soft">{facet.name}</span>
      </legend>
      <Labelled label="Title on the page" wide>
        <input
          className="field"
          maxLength={200}
          placeholder={readableName(facet.name)}
          value={facet.label ?? ''}
          onChange={(event) => set({ label: event.target.value || undefined })}
        />
      </Labelled>
      {kind !== 'numbers' && (
        <Labelled label="Values listed">
          <input
            type="number"
            min={1}
            max={1000}
            className="field figures"
            value={facet.size ?? 20}
            onChange={(event) => {
              const size = Number(event.target.value);
              if (Number.isInteger(size) && size >= 1 && size <= 1000) set({ size });
            }}
          />
        </Labelled>
      )}
      {kind === 'values' && (
        <>
          <Choice
            label="Order"
            value={facet.order ?? 'count'}
            options={['count', 'value']}
            set={(order) => set({ order })}
          />
          <Choice
            label="Several chosen"
            value={facet.match ?? 'any'}
            options={['any', 'all']}
            set={(match) => set({ match })}
          />
          <Labelled label="Shown by">
            <select
              className="field"
              value={facet.labelField ?? ''}
              onChange={(event) => set({ labelField: event.target.value || undefined })}
            >
              <option value="">its own value</option>
              {fields
                .filter(({ path, types }) => path !== field.path && (types.string ?? 0) > 0)
                .map(({ path }) => (
                  <option key={path}>{path}</option>
                ))}
            </select>
          </Labelled>
        </>
      )}
      {kind === 'tree' && (
        <Labelled label="Between levels">
          <input
            className="field figures"
            maxLength={20}
            value={facet.separator ?? ' > '}
            onChange={(event) => event.target.value !== '' && set({ separator: event.target.value })}
          />
        </Labelled>
      )}
      {kind === 'dates' && (
        <Choice label="By" value={facet.by ?? 'month'} options={['year', 'month', 'day']} set={(by) => set({ by })} />
      )}
      {kind === 'numbers' && <Buckets facet={facet} set={set} />}
    </fieldset>
  );
}

function Labelled({ label, wide, children }: { label: string; wide?: boolean; children: React.ReactNode }) {
  return (
    <label className={wide ? 'w-44' : 'w-28'}>
      <span className="mb-0.5 block text-xs text-soft">{label}</span>
      {children}
    </label>
  );
}

function Choice<T extends string>({
  label,
  value,
  options,
  set,
}: {
  label: string;
  value: T;
  options: readonly T[];
  set: (value: T) => void;
}) {
  return (
    <Labelled label={label}>
      <select className="field" value={value} onChange={(event) => set(event.target.value as T)}>
        {options.map((option) => (
          <option key={option}>{option}</option>
        ))}
      </select>
    </Labelled>
  );
}

/** Edges of buckets as numbers with commas; what does not ascend is not saved, and says so. */
function Buckets({ facet, set }: { facet: Facet; set: (part: FacetChange) => void }) {
  const [text, setText] = useState((facet.buckets ?? []).join(', '));
  const [problem, setProblem] = useState('');
  const read = (value: string): void => {
    setText(value);
    const edges = value
      .split(',')
      .map((part) => part.trim())
      .filter((part) => part !== '')
      .map(Number);
    const wrong = edges.some(Number.isNaN)
      ? 'Numbers with commas between them.'
      : edges.length === 1
        ? 'Two edges or more.'
        : edges.some((edge, i) => i > 0 && edge <= edges[i - 1]!)
          ? 'Each edge above the one before.'
          : '';
    setProblem(wrong);
    if (wrong !== '') return;
    set({ buckets: edges.length > 0 ? edges : undefined });
  };
  return (
    <label className="w-56">
      <span className="mb-0.5 block text-xs text-soft">Edges of buckets (empty: parted evenly)</span>
      <input
        className="field figures"
        value={text}
        placeholder="0, 30, 60, 120"
        onChange={(event) => read(event.target.value)}
      />
      {problem && (
        <span role="alert" className="text-xs text-madder">
          {problem}
        </span>
      )}
    </label>
  );
}
