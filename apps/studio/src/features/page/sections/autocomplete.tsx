'use client';

import { usualSections, type InterfaceDocument } from '@yucca/contract';
import { AddChoice, RemoveButton } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { draggable, MoveButtons, moved, Setting } from '../setting';

type SectionDocument = NonNullable<InterfaceDocument['autocomplete']>[number];

const SOURCES: Record<SectionDocument['from'], string> = {
  past: 'what this visitor asked before',
  viewed: 'records this visitor looked at',
  popular: 'records that stand first, before a letter is typed',
  values: 'completions and facet values',
  records: 'records, with every letter',
};
const KINDS = Object.keys(SOURCES) as SectionDocument['from'][];

/** What the search field offers: sections in order, each with its source. */
export function AutocompleteSection({ facts }: { facts: PageFacts }) {
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
            <div className="flex items-center gap-1">
              <span aria-hidden="true" className="cursor-grab text-soft" title="Drag to another place">
                ⠿
              </span>
              <input
                aria-label={`Label of section ${i + 1}`}
                className="field min-w-0 flex-1 py-0.5 text-[13px]"
                value={section.label}
                maxLength={80}
                onChange={(event) => event.target.value !== '' && change(i, { label: event.target.value }, `label${i}`)}
              />
              <MoveButtons what={section.label} at={i} count={sections.length} onMove={move} />
              <RemoveButton what={section.label} onRemove={() => put(sections.toSpliced(i, 1))} />
            </div>
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
              put([...sections, { from, label: 'New section' }]);
            }}
          />
        </div>
      )}
    </Setting>
  );
}
