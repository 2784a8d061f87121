'use client';

import { usualSections, withProperty, type SectionDocument, type Typing } from '@yucca/contract';
import { AddChoice, Check, Choice } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { draggable, ItemHead, moved, Setting } from '../setting';
import { WholeNumber } from './plain-inputs';
import { OwnAddress, OwnRows } from './own-rows';

const SOURCES: Record<SectionDocument['from'], string> = {
  past: 'what this visitor asked before',
  viewed: 'records this visitor looked at',
  popular: 'records that stand first, before a letter is typed',
  values: 'completions and facet values',
  records: 'records, with every letter',
  list: 'rows of your own',
  address: 'rows that an address of your own answers',
};
const KINDS = Object.keys(SOURCES) as SectionDocument['from'][];

/** What the search field offers: sections in order, each with its source. */
export function AutocompleteSection({ facts }: { facts: PageFacts }) {
  return (
    <>
      <Sections facts={facts} />
      <TypingSettings />
    </>
  );
}

function Sections({ facts }: { facts: PageFacts }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const sections = document.autocomplete ?? usualSections(document.title ?? facts.parts.title);
  const put = (next: SectionDocument[], gesture?: string): void => set('autocomplete', next, gesture);
  const change = (at: number, part: Partial<SectionDocument>, gesture?: string): void =>
    put(
      sections.map((section, i) => (i === at ? { ...section, ...part } : section)),
      gesture,
    );
  const move = (from: number, to: number): void => put(moved(sections, from, to));
  return (
    <Setting
      part="autocomplete"
      isSet={document.autocomplete !== undefined}
      usual="the sections of every new page"
      onReset={() => set('autocomplete', undefined)}
    >
      <ol className="grid gap-2">
        {sections.map((section, i) => (
          <li
            key={i}
            {...draggable(i, 'section', move)}
            className="grid gap-1 rounded-md border border-line bg-paper p-2 text-[13px]"
          >
            <ItemHead
              kind="section"
              label={section.label}
              at={i}
              count={sections.length}
              onLabel={(label) => change(i, { label }, `label${i}`)}
              onMove={move}
              onRemove={() => put(sections.toSpliced(i, 1))}
            />
            <p className="text-xs text-soft">{SOURCES[section.from]}</p>
            <div className="flex items-center gap-2">
              {(section.from === 'records' || section.from === 'popular') && (
                <select
                  aria-label={`Collection of ${section.label}`}
                  className="field w-auto flex-1 py-0.5 text-[13px]"
                  value={section.collection ?? facts.collection}
                  onChange={(event) => change(i, { collection: event.target.value })}
                >
                  {facts.collections.map(({ name, title }) => (
                    <option key={name} value={name}>
                      {title}
                    </option>
                  ))}
                </select>
              )}
              <label className="ml-auto flex items-center gap-1">
                rows
                <input
                  type="number"
                  min={1}
                  max={20}
                  className="field figures w-16 py-0.5 text-[13px]"
                  value={section.size ?? 4}
                  onChange={(event) => {
                    const size = event.target.valueAsNumber;
                    if (Number.isInteger(size) && size >= 1 && size <= 20) change(i, { size }, `size${i}`);
                  }}
                />
              </label>
            </div>
            {section.from === 'list' && <OwnRows rows={section.rows ?? []} onRows={(rows) => change(i, { rows })} />}
            {section.from === 'address' && (
              <OwnAddress address={section.address ?? ''} onAddress={(address) => change(i, { address })} />
            )}
            <SectionDetails
              section={section}
              onSection={(next, gesture) =>
                put(
                  sections.map((one, n) => (n === i ? next : one)),
                  gesture && `${gesture}${i}`,
                )
              }
            />
          </li>
        ))}
      </ol>
      {sections.length === 0 && <p className="text-[13px] text-soft">The field offers nothing while somebody types.</p>}
      {sections.length < 10 && (
        <div className="mt-2">
          <AddChoice
            label="Add a section"
            options={KINDS.map((kind) => SOURCES[kind])}
            onAdd={(words) => {
              const from = KINDS.find((kind) => SOURCES[kind] === words)!;
              put([...sections, { from, label: 'New section', ...(from === 'address' && { address: EXAMPLE }) }]);
            }}
          />
        </div>
      )}
    </Setting>
  );
}

/** An address that answers nothing: it is to be replaced, and valid until it is. */
const EXAMPLE = 'https://example.com/offers?q={q}';

const ROW_PARTS = [
  ['picture', 'picture'],
  ['detail', 'detail'],
  ['number', 'number'],
] as const;

/** From which letter a section is there, and what its rows show. */
function SectionDetails({
  section,
  onSection,
}: {
  section: SectionDocument;
  onSection: (section: SectionDocument, gesture?: string) => void;
}) {
  const { from, letters, parts = ['picture', 'detail'] } = section;
  const showsRecords = from === 'records' || from === 'popular';
  return (
    <details className="text-xs text-soft">
      <summary className="min-h-6 cursor-pointer py-0.5">More</summary>
      {from !== 'popular' && from !== 'viewed' && (
        <WholeNumber
          label="letters before it is there"
          value={letters ?? (from === 'past' || from === 'list' ? 0 : 1)}
          min={0}
          max={20}
          onNumber={(value) => onSection({ ...section, letters: value }, 'letters')}
        />
      )}
      {showsRecords && (
        <fieldset className="mt-1 flex flex-wrap gap-x-3">
          <legend>A row shows the title and</legend>
          {ROW_PARTS.map(([part, words]) => (
            <Check
              key={part}
              label={words}
              on={parts.includes(part)}
              onValue={(on) =>
                onSection({
                  ...section,
                  parts: ROW_PARTS.map(([one]) => one).filter((one) => (one === part ? on : parts.includes(one))),
                })
              }
            />
          ))}
        </fieldset>
      )}
    </details>
  );
}

/** How the field behaves while somebody types. */
function TypingSettings() {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const { typing = {} } = document;
  const put = <P extends keyof Typing>(part: P, value: Typing[P] | undefined): void => {
    const next = withProperty(typing, part, value);
    set('typing', Object.keys(next).length === 0 ? undefined : next, part);
  };
  return (
    <Setting part="autocomplete" isSet={document.typing !== undefined} onReset={() => set('typing', undefined)}>
      <h2 className="mt-2 mb-1 text-[15px]">While somebody types</h2>
      <div className="grid gap-1">
        <Choice
          label="Enter, with no row chosen"
          value={typing.enter ?? 'results'}
          options={[
            ['results', 'shows all results'],
            ['first', 'takes the first row'],
          ]}
          onValue={(enter) => put('enter', enter === 'results' ? undefined : enter)}
        />
        <WholeNumber
          label="Letters before a server is asked"
          value={typing.letters ?? 0}
          min={0}
          max={20}
          onNumber={(letters) => put('letters', letters || undefined)}
        />
        <WholeNumber
          label="Wait after a letter, ms"
          value={typing.delayMs ?? 0}
          min={0}
          max={2000}
          onNumber={(delay) => put('delayMs', delay || undefined)}
        />
        <Check
          label="More of the row that is pointed at, beside the list"
          on={typing.preview !== false}
          onValue={(on) => put('preview', on ? undefined : false)}
        />
        <Check
          label="Voice input, where a browser can listen"
          on={typing.voice === true}
          onValue={(on) => put('voice', on || undefined)}
        />
      </div>
    </Setting>
  );
}
