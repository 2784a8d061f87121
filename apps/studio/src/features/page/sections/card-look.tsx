'use client';

import {
  PICTURE_FITS,
  PICTURE_RATIOS,
  withProperty,
  type Badge,
  type FieldProfile,
  type NumberFormat,
  type Picture,
} from '@yucca/contract';
import Link from 'next/link';
import { AddChoice, Choice, RemoveButton, Slider } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import { MoveButtons, moved, Setting } from '../setting';
import { LineWhenDone } from './plain-inputs';

const RATIO_WORDS: Record<(typeof PICTURE_RATIOS)[number], string> = {
  '4:3': '4:3, landscape',
  '1:1': '1:1, square',
  '3:4': '3:4, portrait',
  '2:3': '2:3, tall',
  '16:9': '16:9, wide',
};
const FIT_WORDS: Record<(typeof PICTURE_FITS)[number], string> = {
  cover: 'cut to fill',
  contain: 'whole, with room beside',
};

/** How a result looks besides its parts: pictures, badges, where it leads, how its numbers are written. */
export function CardLook({ fields, collection }: { fields: readonly FieldProfile[]; collection: string }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { picture = {}, link } = document;
  const setPicture = <P extends keyof Picture>(part: P, value: Picture[P]): void =>
    set('picture', { ...picture, [part]: value });
  return (
    <>
      <Setting part="card-picture" isSet={document.picture !== undefined} onReset={() => set('picture', undefined)}>
        <div className="grid gap-1">
          <Choice
            label="Shape of pictures"
            value={picture.ratio ?? '4:3'}
            options={PICTURE_RATIOS.map((ratio) => [ratio, RATIO_WORDS[ratio]] as const)}
            onValue={(ratio) => setPicture('ratio', ratio)}
          />
          <Choice
            label="Pictures are"
            value={picture.fit ?? 'cover'}
            options={PICTURE_FITS.map((fit) => [fit, FIT_WORDS[fit]] as const)}
            onValue={(fit) => setPicture('fit', fit)}
          />
        </div>
      </Setting>
      <Setting part="card-text" isSet={document.textLines !== undefined} onReset={() => set('textLines', undefined)}>
        <Slider
          label="Lines of text"
          value={document.textLines ?? 3}
          min={1}
          max={8}
          onValue={(value) => set('textLines', Math.round(value), 'textLines')}
        />
        <p className="text-xs text-soft">
          Which fields are marked, and which long texts are cut around what was found, is of the tuning:{' '}
          <Link href={`/c/${collection}/fields`} className="link">
            Fields
          </Link>
        </p>
      </Setting>
      <Setting part="card-title" isSet={link !== undefined} usual="its own page" onReset={() => set('link', undefined)}>
        <div className="grid gap-1 text-[13px]">
          A result leads to
          <LineWhenDone
            label="A result leads to"
            value={link ?? ''}
            placeholder="https://shop.example/{id}"
            most={2048}
            onText={(text) => set('link', text === '' ? undefined : text)}
          />
          <p className="text-xs text-soft">
            {'{id}'} is the key, {'{field}'} a field of the record.
          </p>
        </div>
      </Setting>
      <Badges />
      <Formats fields={fields} />
    </>
  );
}

/** Words on the results that meet a condition. */
function Badges() {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { badges = [] } = document;
  const put = (next: Badge[]): void => set('badges', next.length === 0 ? undefined : next);
  const change = (at: number, part: Partial<Badge>): void =>
    put(badges.map((badge, i) => (i === at ? { ...badge, ...part } : badge)));
  return (
    <Setting part="badges" isSet={badges.length > 0} onReset={() => set('badges', undefined)}>
      <fieldset className="grid grid-cols-[minmax(0,1fr)] gap-2">
        <legend className="mb-1 text-[13px]">Badges</legend>
        {badges.map((badge, i) => (
          <div key={i} className="grid gap-1 rounded-md border border-line bg-paper p-2 text-[13px]">
            <div className="flex items-center gap-1">
              <LineWhenDone
                label={`Word of badge ${i + 1}`}
                value={badge.label}
                most={40}
                onText={(label) => label !== '' && change(i, { label })}
              />
              <input
                type="color"
                aria-label={`Colour of ${badge.label}`}
                className="size-7 shrink-0"
                value={badge.colour ?? '#1e5b4a'}
                onChange={({ target: { value } }) => change(i, { colour: value })}
              />
              <MoveButtons
                what={badge.label}
                at={i}
                count={badges.length}
                onMove={(from, to) => put(moved(badges, from, to))}
              />
              <RemoveButton what={badge.label} onRemove={() => put(badges.toSpliced(i, 1))} />
            </div>
            <LineWhenDone
              label={`Condition of ${badge.label}`}
              value={badge.where}
              most={1024}
              onText={(where) => where !== '' && change(i, { where })}
            />
          </div>
        ))}
        {badges.length < 6 && <NewBadge onBadge={(badge) => put([...badges, badge])} />}
      </fieldset>
    </Setting>
  );
}

function NewBadge({ onBadge }: { onBadge: (badge: Badge) => void }) {
  return (
    <form
      className="grid grid-cols-[1fr_1.4fr_auto] gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        const data = new FormData(event.currentTarget);
        const [label, where] = ['label', 'where'].map((name) => String(data.get(name)).trim()) as [string, string];
        if (label === '' || where === '') return;
        onBadge({ label, where });
        event.currentTarget.reset();
      }}
    >
      <input
        name="label"
        required
        maxLength={40}
        className="field py-0.5 text-[13px]"
        placeholder="New"
        aria-label="Word of a badge"
      />
      <input
        name="where"
        required
        maxLength={1024}
        className="field py-0.5 text-[13px]"
        placeholder="price < 10"
        aria-label="Condition of a badge"
      />
      <button type="submit" className="link px-1 text-[13px]">
        Add badge
      </button>
    </form>
  );
}

/** How the numbers of fields are written. */
function Formats({ fields }: { fields: readonly FieldProfile[] }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { formats = {} } = document;
  const numbers = fields.filter(({ types }) => (types.number ?? 0) > 0).map(({ path }) => path);
  const put = (field: string, format: NumberFormat | undefined): void => {
    const next = withProperty(formats, field, format);
    set('formats', Object.keys(next).length === 0 ? undefined : next, `format ${field}`);
  };
  const named = Object.keys(formats);
  if (numbers.length === 0 && named.length === 0) return null;
  return (
    <Setting part="card-number" isSet={named.length > 0} onReset={() => set('formats', undefined)}>
      <fieldset className="grid grid-cols-[minmax(0,1fr)] gap-1">
        <legend className="mb-1 text-[13px]">Number formats</legend>
        {named.map((field) => {
          const { unit = '', decimals, currency = '' } = formats[field]!;
          return (
            <div key={field} className="grid grid-cols-[1fr_64px_64px_52px_auto] items-center gap-1 text-[13px]">
              <span className="figures truncate text-xs" title={field}>
                {field}
              </span>
              <LineWhenDone
                label={`Unit of ${field}`}
                placeholder="unit"
                value={unit}
                most={16}
                onText={(text) =>
                  put(field, { ...(text !== '' && { unit: text }), ...(decimals !== undefined && { decimals }) })
                }
              />
              <LineWhenDone
                label={`Currency of ${field}`}
                placeholder="EUR"
                value={currency}
                most={3}
                onText={(text) =>
                  (text === '' || /^[A-Za-z]{3}$/.test(text)) &&
                  put(field, {
                    ...(text !== '' && { currency: text.toUpperCase() }),
                    ...(decimals !== undefined && { decimals }),
                  })
                }
              />
              <input
                type="number"
                min={0}
                max={6}
                aria-label={`Decimals of ${field}`}
                placeholder="0.0"
                className="field figures py-0.5 text-[13px]"
                value={decimals ?? ''}
                onChange={({ target: { value, valueAsNumber: digits } }) => {
                  const rest: NumberFormat = { ...(unit !== '' && { unit }), ...(currency !== '' && { currency }) };
                  if (value === '') put(field, rest);
                  else if (Number.isInteger(digits) && digits >= 0 && digits <= 6)
                    put(field, { ...rest, decimals: digits });
                }}
              />
              <RemoveButton what={`the format of ${field}`} onRemove={() => put(field, undefined)} />
            </div>
          );
        })}
        <AddChoice
          label="Add a number format"
          options={numbers.filter((path) => !Object.hasOwn(formats, path))}
          onAdd={(field) => put(field, {})}
        />
      </fieldset>
    </Setting>
  );
}
