'use client';

import { USUAL_COLUMNS, withProperty, type Header } from '@yucca/contract';
import { useProfile } from '@/features/profile/use-profile';
import { Choice, RemoveButton, Slider } from '@/ui/controls';
import { useDraft, useSetDesign } from '../draft';
import type { PageFacts } from '../facts';
import { mayLead, MoveButtons, moved, Setting, TextSetting } from '../setting';
import { LogoSetting } from './logo';
import { StartSettings } from './start';
import { TableSettings } from './table';

const LAYOUTS = [
  ['cards', 'cards with pictures'],
  ['rows', 'rows, text below text'],
  ['table', 'a table to compare'],
] as const;
const PLACES = ['places', 'rows beside a map'] as const;

/** How the page is laid out, and what stands above it. */
export function LayoutSection({ facts }: { facts: PageFacts }) {
  const [{ document }] = useDraft();
  const set = useSetDesign();
  const {
    layout = 'cards',
    columns = USUAL_COLUMNS,
    filters = 'left',
    density = 'roomy',
    header = {},
    title,
  } = document;
  const links = header.links ?? [];
  const { profile } = useProfile(facts.collection, facts.generation);
  const setHeader = ({ links: list = [], ...rest }: Header): void => {
    const next: Header = { ...rest, ...(list.length > 0 && { links: list }) };
    set('header', Object.keys(next).length === 0 ? undefined : next);
  };

  const setLinks = (next: typeof links): void => setHeader({ ...header, links: next });
  return (
    <>
      <Setting part="results" isSet={document.layout !== undefined} onReset={() => set('layout', undefined)}>
        <Choice
          label="Results as"
          value={layout}
          options={facts.parts.geo === null ? LAYOUTS : [...LAYOUTS, PLACES]}
          onValue={(value) => set('layout', value)}
        />
      </Setting>
      {layout === 'cards' && (
        <Setting part="results" isSet={document.columns !== undefined} onReset={() => set('columns', undefined)}>
          <Slider
            label="Columns"
            value={columns}
            min={2}
            max={5}
            onValue={(value) => set('columns', Math.round(value), 'columns')}
          />
        </Setting>
      )}
      {layout === 'table' && <TableSettings facts={facts} fields={profile?.fields ?? []} />}
      <Setting part="filters" isSet={document.filters !== undefined} onReset={() => set('filters', undefined)}>
        <Choice
          label="Filters"
          value={filters}
          options={[
            ['left', 'left of the results'],
            ['right', 'right of the results'],
            ['above', 'above the results'],
            ['sheet', 'behind a button'],
          ]}
          onValue={(value) => set('filters', value)}
        />
      </Setting>
      <Setting part="results" isSet={document.density !== undefined} onReset={() => set('density', undefined)}>
        <Choice
          label="Density"
          value={density}
          options={[
            ['roomy', 'roomy'],
            ['dense', 'dense'],
          ]}
          onValue={(value) => set('density', value)}
        />
      </Setting>
      <h2 className="mt-2 text-[15px]">Header</h2>
      <Setting
        part="header"
        isSet={title !== undefined}
        usual={facts.parts.title}
        onReset={() => set('title', undefined)}
      >
        <TextSetting
          label="Title of the page"
          value={title}
          placeholder={facts.parts.title}
          most={200}
          onText={(text) => set('title', text, 'title')}
        />
      </Setting>
      <Setting
        part="header"
        isSet={header.name !== undefined}
        usual="the title"
        onReset={() => setHeader(withProperty(header, 'name', undefined))}
      >
        <TextSetting
          label="Name in the header"
          value={header.name}
          placeholder={title ?? facts.parts.title}
          onText={(name) => setHeader(withProperty(header, 'name', name))}
        />
      </Setting>
      <LogoSetting facts={facts} header={header} onHeader={setHeader} />
      <fieldset data-for="header" className="grid gap-2">
        <legend className="mb-1 text-[13px]">Links in the header</legend>
        {links.map((link, i) => (
          <div key={i} className="grid grid-cols-[auto_1fr_auto] items-center gap-1">
            <MoveButtons
              what={link.label}
              at={i}
              count={links.length}
              onMove={(from, to) => setLinks(moved(links, from, to))}
            />
            <span className="min-w-0 truncate text-[13px]" title={link.href}>
              {link.label} <span className="figures text-xs text-soft">{link.href}</span>
            </span>
            <RemoveButton what={link.label} onRemove={() => setLinks(links.toSpliced(i, 1))} />
          </div>
        ))}
        <NewLink onLink={(link) => setLinks([...links, link])} />
      </fieldset>
      <StartSettings facts={facts} />
    </>
  );
}

function NewLink({ onLink }: { onLink: (link: { label: string; href: string }) => void }) {
  return (
    <form
      className="grid grid-cols-[1fr_1fr_auto] gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        const form = event.currentTarget;
        const data = new FormData(form);
        const [label, href] = [data.get('label') as string, data.get('href') as string];
        const address = form.elements.namedItem('href') as HTMLInputElement;
        address.setCustomValidity(
          mayLead(href) ? '' : 'Begin with https://, or with one slash for a path of this server.',
        );
        if (!form.reportValidity()) return;
        onLink({ label: label.trim(), href });
        form.reset();
      }}
    >
      <input
        name="label"
        required
        maxLength={80}
        className="field py-0.5 text-[13px]"
        placeholder="Label"
        aria-label="Label of a link"
      />
      <input
        name="href"
        required
        maxLength={2048}
        className="field py-0.5 text-[13px]"
        placeholder="https://…"
        aria-label="Address of a link"
        onChange={(event) => event.currentTarget.setCustomValidity('')}
      />
      <button type="submit" className="link px-1 text-[13px]">
        Add link
      </button>
    </form>
  );
}
