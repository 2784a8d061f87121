'use client';

import { interfaceChanges, interfacePage, type Interface } from '@yucca/contract';
import clsx from 'clsx';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { DraftBar } from '@/features/draft/draft-bar';
import { History } from '@/features/draft/history';
import { ProbeInput } from '@/features/probe/probe-input';
import { pageLanguage } from '@/text/page-language';
import { api } from '@/ui/api';
import { useFocusInSight } from '@/ui/use-focus-in-sight';
import { useParam } from '@/ui/use-param';
import { useThemeName } from '@/ui/use-theme-tokens';
import { useDraft } from './draft';
import type { PageFacts } from './facts';
import { useOwnCss } from './own-css';
import { controlBy, FindControl } from './find-control';
import { PageInFrame, WIDTHS, type Width } from './frames';
import { NewPage } from './new-page';
import { AutocompleteSection } from './sections/autocomplete';
import { CssSection } from './sections/css';
import { FiltersSection } from './sections/filters';
import { HandOverFiles } from './hand-over/files';
import { HandOverSection } from './hand-over/section';
import { LayoutSection } from './sections/layout';
import { ResultsSection } from './sections/results';
import { TextsSection } from './sections/texts';
import { ThemeSection } from './sections/theme';

/** What sections need besides the design. */
interface Drawing {
  facts: PageFacts;
  onTaken: () => void;
  language: string;
  onLanguage: (locale: string) => void;
}

const SECTIONS: readonly [name: string, title: string, draw: (drawing: Drawing) => ReactNode][] = [
  ['layout', 'Layout', ({ facts }) => <LayoutSection facts={facts} />],
  ['autocomplete', 'Autocomplete', ({ facts }) => <AutocompleteSection facts={facts} />],
  ['filters', 'Filters', ({ facts }) => <FiltersSection facts={facts} />],
  ['results', 'Results', ({ facts }) => <ResultsSection facts={facts} />],
  ['texts', 'Texts', ({ facts, language, onLanguage }) => <TextsSection {...{ facts, language, onLanguage }} />],
  ['theme', 'Theme', () => <ThemeSection />],
  ['css', 'Own CSS', () => <CssSection />],
  ['hand-over', 'Hand over', ({ facts, onTaken }) => <HandOverSection facts={facts} onTaken={onTaken} />],
];

/** The section that holds the control of a part of the page. */
function sectionOf(part: string): string {
  if (part.startsWith('card') || ['badges', 'sort', 'paging'].includes(part)) return 'results';
  if (part.startsWith('facet:') || part === 'filters') return 'filters';
  return part === 'autocomplete' ? 'autocomplete' : 'layout';
}

const isWidth = (name: string): name is Width => Object.hasOwn(WIDTHS, name);

/** What can stand beside the page. */
const BESIDE = { '': 'nothing', phone: 'the draft on a phone', live: 'the page as it is live' } as const;

/** The designer of a search page: controls on the left, the real page on the right, changed as they are. */
export function PageScreen({ facts, preview: first }: { facts: PageFacts; preview: string }) {
  // Another address would load the frame anew; this one holds long enough.
  const [preview] = useState(first);
  const draft = useDraft();
  const [{ document }] = draft;
  const { slug } = facts.parts;
  const [section, setSection] = useParam('section');
  const [asked, setAsked] = useParam('probe');
  const [wide, setWide] = useParam('width');
  const [beside, setBeside] = useParam('beside');
  const [lens, setLens] = useParam('lens');
  const [use, setUse] = useParam('use');
  const [language, setLanguage] = useParam('language');
  const scheme = useThemeName() === 'dark' ? 'dark' : 'light';
  const current = SECTIONS.some(([name]) => name === section) ? section : 'layout';
  const width = isWidth(wide) ? wide : 'desktop';
  /** Counts what was taken away: files are compared with the last time. */
  const [taken, setTaken] = useState(0);
  const [outline, setOutline] = useState<string | null>(null);
  // Made here, not asked for: a change is in the frame before it is saved.
  const css = useOwnCss(document.css);
  const page = useMemo(
    () => ({
      ...interfacePage(document, facts.parts, pageLanguage(document, language, false)),
      ...(css && { css: css.css }),
    }),
    [document, facts.parts, css, language],
  );
  const panel = useRef<HTMLDivElement>(null);
  useFocusInSight(panel);
  const [wanted, setWanted] = useState<string | null>(null);
  const sought = useRef<string | null>(null);
  // The control of the part that was clicked, once it is there: its section may have to read something first.
  useEffect(() => {
    const controls = panel.current;
    if (wanted === null || controls === null) return;
    const reachIt = (): void => {
      const control = controls.querySelector(`[data-for="${CSS.escape(wanted)}"]`);
      if (!control) return;
      control.querySelector<HTMLElement>('button[aria-expanded=false]')?.click();
      control.scrollIntoView({ block: 'center' });
      control.querySelector<HTMLElement>('select, input, button, summary')?.focus();
      setWanted(null);
    };
    const watch = new MutationObserver(reachIt);
    watch.observe(controls, { childList: true, subtree: true });
    reachIt();
    return () => watch.disconnect();
  }, [wanted]);
  /** To the control that was found by its words. */
  const reach = (label: string): void => {
    sought.current = null;
    const control = controlBy(panel.current!, label);
    control?.closest('details')?.setAttribute('open', '');
    control?.scrollIntoView({ block: 'center' });
    control?.focus();
  };
  useEffect(() => {
    if (sought.current !== null) reach(sought.current);
  });
  const choose = (part: string): void => {
    setSection(sectionOf(part));
    setOutline(part);
    setWanted(part);
  };
  const withLens = lens === '1' ? '&lens=1' : '';
  const shared = { q: asked, pointing: use !== 'page', outline, onChosen: choose, onAsked: setAsked, scheme } as const;
  return (
    <section className="flex min-w-0 flex-1 flex-col">
      <h1 className="sr-only">Search page {document.title ?? facts.parts.title}</h1>
      <div className="flex shrink-0 items-center gap-2 border-b border-line px-4 py-1.5">
        <PageChoice facts={facts} />
        <nav aria-label="Sections of the page" className="flex items-center">
          {SECTIONS.map(([name, title]) => (
            <button
              key={name}
              type="button"
              aria-current={name === current ? 'step' : undefined}
              onClick={() => {
                setSection(name === 'layout' ? '' : name);
                setOutline(null);
                setWanted(null);
              }}
              className={clsx(
                'min-h-8 border-b-2 px-2.5',
                name === current ? 'border-clay font-semibold' : 'border-transparent text-soft hover:text-ink',
              )}
            >
              {title}
            </button>
          ))}
        </nav>
        <span className="ml-auto flex items-center gap-3">
          <a href={`/s/${slug}`} className="link">
            Open the page
          </a>
          <History
            path={`/interfaces/${slug}/versions`}
            read={async (version) => (await api<Interface>(`/interfaces/${slug}?version=${version}`)).document}
            draft={draft}
            changesOf={interfaceChanges}
          />
        </span>
      </div>
      <div className="flex min-h-0 flex-1">
        <div
          ref={panel}
          role="region"
          aria-label="Controls"
          tabIndex={0}
          className="relative grid w-[340px] shrink-0 grid-cols-[minmax(0,1fr)] content-start gap-3 overflow-y-auto border-r border-line bg-raised px-4 py-3"
          onFocus={({ target }) => {
            setOutline(partOf(target));
            setWanted(null);
          }}
          onPointerOver={({ target }) => {
            const part = partOf(target as Element);
            if (part !== null) setOutline(part);
          }}
          onPointerLeave={() => setOutline(partOf(window.document.activeElement))}
        >
          <FindControl
            titleOf={(name) => SECTIONS.find(([one]) => one === name)![1]}
            onFound={(name, label) => {
              if (name === current) return reach(label);
              sought.current = label;
              setSection(name === 'layout' ? '' : name);
            }}
          />
          {SECTIONS.find(([name]) => name === current)![2]({
            facts,
            onTaken: () => setTaken(taken + 1),
            language,
            onLanguage: setLanguage,
          })}
        </div>
        {current === 'hand-over' ? (
          <div className="flex min-h-0 min-w-0 flex-1 flex-col bg-sunk">
            <HandOverFiles slug={slug} round={taken} />
          </div>
        ) : (
          <div className="flex min-h-0 min-w-0 flex-1 flex-col bg-sunk">
            <div className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-paper px-3 py-1.5 text-[13px]">
              <label className="w-40">
                <span className="sr-only">Probe</span>
                <ProbeInput id="probe" text={asked} onText={setAsked} placeholder="Probe ( / )" />
              </label>
              <Segments
                label="A click"
                value={use === 'page' ? 'page' : ''}
                options={[
                  ['', 'opens controls'],
                  ['page', 'uses the page'],
                ]}
                onValue={setUse}
              />
              <Segments
                label="Width"
                value={width === 'desktop' ? '' : width}
                options={[
                  ['', 'desktop'],
                  ['tablet', 'tablet'],
                  ['phone', 'phone'],
                ]}
                onValue={setWide}
              />
              <label className="flex items-center gap-1.5 text-soft">
                beside
                <select
                  className="field w-[136px] py-0.5 text-[13px]"
                  value={Object.hasOwn(BESIDE, beside) ? beside : ''}
                  onChange={(event) => setBeside(event.target.value)}
                >
                  {Object.entries(BESIDE).map(([name, words]) => (
                    <option key={name} value={name}>
                      {words}
                    </option>
                  ))}
                </select>
              </label>
              <label className="flex items-center gap-1.5 text-soft">
                <input
                  type="checkbox"
                  checked={lens === '1'}
                  onChange={({ target }) => setLens(target.checked ? '1' : '')}
                />
                network lens
              </label>
            </div>
            <div className="flex min-h-0 flex-1 gap-3 p-3">
              <PageInFrame
                key={withLens}
                {...shared}
                title="The draft"
                address={`${preview}${withLens}`}
                width={width}
                page={page}
              />
              {beside === 'phone' && (
                <PageInFrame {...shared} title="The draft on a phone" address={preview} width="phone" page={page} />
              )}
              {beside === 'live' && (
                <PageInFrame {...shared} title="Live" address={`${preview}&version=live`} width={width} page={null} />
              )}
            </div>
          </div>
        )}
      </div>
      <DraftBar draft={draft} changes={interfaceChanges(draft[0].live, draft[0].document)} />
    </section>
  );
}

const partOf = (element: Element | null): string | null =>
  element?.closest<HTMLElement>('[data-for]')?.dataset.for ?? null;

function Segments<T extends string>({
  label,
  value,
  options,
  onValue,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onValue: (value: T) => void;
}) {
  return (
    <div role="group" aria-label={label} className="flex items-center gap-1.5">
      <span className="text-soft">{label}</span>
      <span className="flex overflow-hidden rounded-md border border-field-line">
        {options.map(([name, words]) => (
          <button
            key={name}
            type="button"
            aria-pressed={name === value}
            onClick={() => onValue(name)}
            className="min-h-7 bg-raised px-2 aria-pressed:bg-agave-tint aria-pressed:font-medium"
          >
            {words}
          </button>
        ))}
      </span>
    </div>
  );
}

/** The pages of this collection, to go from one to the other, or to make another. */
function PageChoice({ facts: { parts, pages, collection } }: { facts: PageFacts }) {
  const router = useRouter();
  return (
    <span className="flex items-center gap-1">
      <select
        aria-label="Page"
        className="field w-auto py-0.5 font-medium"
        value={parts.slug}
        onChange={(event) => router.push(`/pages/${event.target.value}`)}
      >
        {pages.map((page) => (
          <option key={page.slug} value={page.slug}>
            {page.title}
          </option>
        ))}
      </select>
      <NewPage collection={collection} />
    </span>
  );
}
