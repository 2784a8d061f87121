'use client';

import { LIMITS, type FieldProfile, type Tuning, type TuningDocument } from '@yucca/contract';
import { primaryLanguage, STEMMED } from '@yucca/engine/plan';
import { memo } from 'react';
import { withLanguage, withLanguageField } from '@/features/fields/roles';
import { AddChoice, Choice, RemoveButton } from '@/ui/controls';
import { byName, languageName } from '@/ui/language-name';
import { useDraftStore } from '../draft';

/** In which languages the texts are: by field, by record, and all that name none. */
export const LanguageLevers = memo(function LanguageLevers({
  tuning: { language, otherLanguages, languageField, search },
  fields,
}: {
  tuning: Tuning;
  fields: readonly FieldProfile[];
}) {
  const store = useDraftStore();
  const change = (next: (now: TuningDocument) => TuningDocument): void => store.change(next);
  const taken = [language, ...otherLanguages.map((one) => one.language)].map(primaryLanguage);
  const offered = byName(STEMMED.filter((tag) => !taken.includes(tag)));
  const mains = byName([...new Set(['und', ...STEMMED, language])]);
  const searched = search.length > 0 ? search.map(({ field }) => field) : fields.filter(isText).map(({ path }) => path);
  const free = searched.filter((field) => !otherLanguages.some((one) => one.fields.includes(field)));
  const telling = tellingFields(fields, languageField);
  return (
    <>
      <Choice
        label="Texts are in"
        value={language}
        options={mains.map((tag) => [tag, languageName(tag)] as const)}
        onValue={(main) => change((now) => ({ ...now, language: main }))}
      />
      {otherLanguages.map((one) => (
        <OtherLanguage
          key={one.language}
          {...one}
          free={free}
          isOfRecords={languageField !== null}
          onRemove={() =>
            change((now) => ({
              ...now,
              otherLanguages: (now.otherLanguages ?? []).filter((other) => other.language !== one.language),
            }))
          }
          onField={(field, on) => change((now) => withLanguage(now, field, on ? one.language : null))}
        />
      ))}
      {otherLanguages.length < LIMITS.otherLanguages && (
        <AddChoice
          label="Add a language that some are in"
          options={offered.map((tag) => [tag, languageName(tag)] as const)}
          onAdd={(tag) =>
            change((now) => ({
              ...now,
              otherLanguages: [...(now.otherLanguages ?? []), { language: tag, fields: [] }],
            }))
          }
        />
      )}
      {(otherLanguages.length > 0 || languageField !== null) && telling.length > 0 && (
        <Choice
          label="Records name theirs in"
          value={languageField ?? ''}
          options={[['', 'no field'], ...telling.map((path) => [path, path] as const)]}
          onValue={(path) => change((now) => withLanguageField(now, path === '' ? null : path))}
        />
      )}
    </>
  );
});

const isText = ({ types }: FieldProfile): boolean => (types.string ?? 0) > 0;

/** A field with more values tells something else. */
const MOST_LANGUAGES = 40;

/** Fields that may tell a language: texts, few of them; and the one that does. */
function tellingFields(fields: readonly FieldProfile[], current: string | null): string[] {
  const likely = fields.filter((field) => isText(field) && field.lists === 0 && field.distinct <= MOST_LANGUAGES);
  return [...new Set([...(current === null ? [] : [current]), ...likely.map(({ path }) => path)])];
}

function OtherLanguage({
  language,
  fields,
  free,
  isOfRecords,
  onRemove,
  onField,
}: {
  language: string;
  fields: readonly string[];
  /** Searched fields that have no language of their own. */
  free: readonly string[];
  isOfRecords: boolean;
  onRemove: () => void;
  onField: (field: string, on: boolean) => void;
}) {
  const name = languageName(language);
  return (
    <div role="group" aria-label={name} className="grid gap-1 border-t border-line pt-2 text-[13px]">
      <div className="flex items-center justify-between">
        <span className="font-medium">{name}</span>
        <RemoveButton what={name} onRemove={onRemove} />
      </div>
      {fields.map((field) => (
        <div key={field} className="flex items-center justify-between gap-2 pl-3">
          <span className="truncate">{field}</span>
          <RemoveButton what={`${field} from ${name}`} onRemove={() => onField(field, false)} />
        </div>
      ))}
      {fields.length === 0 && (
        <p className="pl-3 text-soft">
          {isOfRecords ? 'Records that name it.' : 'No texts yet: add a field, or say where records name theirs.'}
        </p>
      )}
      <AddChoice
        label={`Add a field in ${name}`}
        options={free.map((field) => [field, field] as const)}
        onAdd={(field) => onField(field, true)}
      />
    </div>
  );
}
