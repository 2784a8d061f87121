'use client';

import { USUAL_PAGE_SIZE, withProperty, type Card, type FieldProfile } from '@yucca/contract';
import { useProfile } from '@/features/profile/use-profile';
import { Check, Choice } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { MoveButtons, moved, Setting } from '../setting';
import { CardLook } from './card-look';
import { WholeNumber } from './plain-inputs';

type CardPart = keyof Card;

const PARTS: readonly [part: CardPart, label: string, fits: (field: FieldProfile) => boolean][] = [
  ['title', 'Title', isText],
  ['picture', 'Picture', isText],
  ['detail', 'Detail', isText],
  ['second', 'Second line', isText],
  ['text', 'Text', isText],
  ['number', 'Number', isNumber],
  ['former', 'Former number', isNumber],
];

function isText(field: FieldProfile): boolean {
  return (field.types.string ?? 0) > 0;
}

function isNumber(field: FieldProfile): boolean {
  return (field.types.number ?? 0) > 0;
}

const NONE: readonly FieldProfile[] = [];

/** What a result shows, how many there are on a page, and how one gets further. */
export function ResultsSection({ facts }: { facts: PageFacts }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { profile } = useProfile(facts.collection, facts.generation);
  const { card = {}, paging = 'pages', pageSize = USUAL_PAGE_SIZE, currency, thing = 'Thing' } = document;
  const fields = profile?.fields ?? NONE;
  const setPart = (part: CardPart, field: string | null | undefined): void => {
    const next = withProperty(card, part, field);
    set('card', Object.keys(next).length === 0 ? undefined : next);
  };
  return (
    <>
      <fieldset data-for="card" className="grid grid-cols-[minmax(0,1fr)] gap-2">
        <legend className="mb-1 font-head font-semibold">A result</legend>
        {PARTS.map(([part, label, fits]) => (
          <CardField
            key={part}
            part={part}
            label={label}
            fields={fields.filter(fits)}
            value={card[part]}
            guessed={facts.parts.card[part] ?? null}
            onField={(field) => setPart(part, field)}
          />
        ))}
      </fieldset>
      <Setting part="card-number" isSet={currency !== undefined} onReset={() => set('currency', undefined)}>
        <label className="grid grid-cols-[1fr_170px] items-center gap-2 text-[13px]">
          Currency of the number
          <input
            className="field figures py-0.5 text-[13px] uppercase"
            placeholder="none"
            list="currencies"
            maxLength={3}
            defaultValue={currency ?? ''}
            key={currency ?? ''}
            onBlur={({ target }) => {
              const code = target.value.trim().toUpperCase();
              if (code === '' || /^[A-Z]{3}$/.test(code)) set('currency', code === '' ? undefined : code);
              else target.value = currency ?? '';
            }}
          />
          <datalist id="currencies">
            {['EUR', 'GBP', 'USD', 'CHF', 'JPY', 'SEK', 'PLN'].map((code) => (
              <option key={code} value={code} />
            ))}
          </datalist>
        </label>
      </Setting>
      <CardLook fields={fields} collection={facts.collection} />
      <h2 className="mt-2 text-[15px]">Pages and sorts</h2>
      <Setting part="paging" isSet={document.paging !== undefined} onReset={() => set('paging', undefined)}>
        <Choice
          label="Further results"
          value={paging}
          options={[
            ['pages', 'numbered pages'],
            ['more', 'a button for more'],
            ['endless', 'by scrolling on'],
          ]}
          onValue={(value) => set('paging', value)}
        />
      </Setting>
      <Setting
        part="results"
        isSet={document.pageSize !== undefined}
        usual={String(USUAL_PAGE_SIZE)}
        onReset={() => set('pageSize', undefined)}
      >
        <WholeNumber
          label="Results a page"
          value={pageSize}
          min={1}
          max={100}
          onNumber={(size) => set('pageSize', size, 'pageSize')}
        />
      </Setting>
      <Sorts facts={facts} />
      <Setting isSet={document.thing !== undefined} onReset={() => set('thing', undefined)}>
        <Choice
          label="A record is, to search engines"
          value={thing}
          options={[
            ['Thing', 'any thing'],
            ['Product', 'a product'],
            ['Article', 'an article'],
            ['LocalBusiness', 'a place of business'],
          ]}
          onValue={(value) => set('thing', value)}
        />
      </Setting>
    </>
  );
}

/** Why a field is guessed to be a part: what `guessCard` of the engine looks for. */
const WHY: Partial<Record<CardPart, string>> = {
  title: 'the text that names most records, each its own.',
  picture: 'most of its values are addresses of pictures.',
  text: 'a long text that many records have, a description first.',
  number: 'a number that most records have, a price first.',
  detail: 'a short text that most records have, a kind or a maker first.',
};

const AS_GUESSED = 'as guessed';
const NOTHING = 'nothing';

/** Which field a part of a result shows: one of the data, nothing, or what was guessed. */
function CardField({
  part,
  label,
  fields,
  value,
  guessed,
  onField,
}: {
  part: CardPart;
  label: string;
  fields: FieldProfile[];
  value: string | null | undefined;
  guessed: string | null;
  onField: (field: string | null | undefined) => void;
}) {
  const shown = value === undefined ? guessed : value;
  const sample = fields.find(({ path }) => path === shown)?.samples[0];
  const isMissing =
    value !== undefined && value !== null && fields.length > 0 && fields.every((one) => one.path !== value);
  return (
    <div data-for={`card-${part}`} className="text-[13px]">
      <label className="grid grid-cols-[1fr_170px] items-center gap-2">
        {label}
        <select
          className="field py-0.5 text-[13px]"
          value={value === undefined ? AS_GUESSED : value === null ? NOTHING : `field:${value}`}
          onChange={({ target: { value: chosen } }) =>
            onField(chosen === AS_GUESSED ? undefined : chosen === NOTHING ? null : chosen.slice('field:'.length))
          }
        >
          <option value={AS_GUESSED}>{guessed === null ? 'nothing (as guessed)' : `${guessed} (as guessed)`}</option>
          <option value={NOTHING}>nothing</option>
          {isMissing && <option value={`field:${value}`}>{value} (not in the data)</option>}
          {fields.map(({ path }) => (
            <option key={path} value={`field:${path}`}>
              {path}
            </option>
          ))}
        </select>
      </label>
      {value === undefined && guessed !== null && WHY[part] !== undefined && (
        <p className="text-xs text-soft">Guessed: {WHY[part]}</p>
      )}
      {sample !== undefined && (
        <p className="truncate text-xs text-soft" title={String(sample)}>
          {String(sample)}
        </p>
      )}
    </div>
  );
}

/** The sorts a visitor can choose, in order. */
function Sorts({ facts }: { facts: PageFacts }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  if (facts.parts.sorts.length === 0)
    return <p className="text-xs text-soft">The tuning has no sorts; they are made under Tuning, Sorts.</p>;
  const offered = document.sorts ?? facts.parts.sorts.map(({ name }) => name);
  const rest = facts.parts.sorts.filter(({ name }) => !offered.includes(name));
  const labelOf = (name: string): string => facts.parts.sorts.find((sort) => sort.name === name)?.label ?? name;
  return (
    <Setting
      part="sort"
      isSet={document.sorts !== undefined}
      usual="all sorts of the tuning"
      onReset={() => set('sorts', undefined)}
    >
      <fieldset>
        <legend className="mb-1 text-[13px]">Sorts offered</legend>
        {offered.map((name, i) => (
          <div key={name} className="flex items-center justify-between">
            <Check
              label={labelOf(name)}
              on
              onValue={() =>
                set(
                  'sorts',
                  offered.filter((one) => one !== name),
                )
              }
            />
            <MoveButtons
              what={labelOf(name)}
              at={i}
              count={offered.length}
              onMove={(from, to) => set('sorts', moved(offered, from, to))}
            />
          </div>
        ))}
        {rest.map(({ name, label }) => (
          <Check key={name} label={label} on={false} onValue={() => set('sorts', [...offered, name])} />
        ))}
      </fieldset>
    </Setting>
  );
}
