'use client';

import { MOMENTS } from '@yucca/kit/texts/moments';
import { useId, useState } from 'react';

/** Every control by the words beside it, and the section it is in. */
export const CONTROLS: readonly (readonly [label: string, section: string])[] = [
  ...[
    'Results as',
    'Columns',
    'Filters',
    'Density',
    'Title of the page',
    'Name in the header',
    'Links in the header',
    'Logo',
    'Text before a search',
    'Add a shelf',
  ].map((label) => [label, 'layout'] as const),
  ['Add a section', 'autocomplete'],
  ...[
    ...['Enter, with no row chosen', 'Letters before a server is asked', 'Wait after a letter, ms'],
    'Voice input, where a browser can listen',
  ].map((label) => [label, 'autocomplete'] as const),
  ['A field as a filter', 'filters'],
  ...['Title', 'Picture', 'Detail', 'Second line', 'Text', 'Number', 'Former number', 'Currency of the number'].map(
    (label) => [label, 'results'] as const,
  ),
  ...['Shape of pictures', 'Pictures are', 'Lines of text', 'A result leads to', 'Badges', 'Number formats'].map(
    (label) => [label, 'results'] as const,
  ),
  ...['Further results', 'Results a page', 'Sorts offered', 'A record is, to search engines'].map(
    (label) => [label, 'results'] as const,
  ),
  ...[
    'Begin with',
    'Light and dark',
    'Colours',
    'Titles',
    'Numbers',
    'Corners, px',
    'Size of all',
    'Found letters',
  ].map((label) => [label, 'theme'] as const),
  ...['Add a language', 'Export texts', 'Import texts'].map((label) => [label, 'texts'] as const),
  ...MOMENTS.flatMap(({ texts }) => Object.values(texts)).map((moment) => [moment, 'texts'] as const),
  ['Export tokens', 'theme'],
  ['Import tokens', 'theme'],
  ['Take the live page away as', 'hand-over'],
  ['Sites it will stand on', 'hand-over'],
  ['For a colleague or an assistant', 'hand-over'],
  ['One element, any site', 'hand-over'],
  ['Content-Security-Policy', 'hand-over'],
];

/** Goes to a control by its words, whichever section it is in. */
export function FindControl({
  titleOf,
  onFound,
}: {
  titleOf: (section: string) => string;
  onFound: (section: string, label: string) => void;
}) {
  const list = useId();
  const [text, setText] = useState('');
  const optionOf = ([label, section]: (typeof CONTROLS)[number]): string => `${label} (${titleOf(section)})`;
  return (
    <>
      <input
        type="search"
        aria-label="Find a control"
        placeholder="Find a control"
        list={list}
        className="field py-0.5 text-[13px]"
        value={text}
        onChange={({ target: { value } }) => {
          const found = CONTROLS.find((control) => optionOf(control) === value);
          setText(found ? '' : value);
          if (found) onFound(found[1], found[0]);
        }}
      />
      <datalist id={list}>
        {CONTROLS.map((control) => (
          <option key={optionOf(control)} value={optionOf(control)} />
        ))}
      </datalist>
    </>
  );
}

/** The element that is worked by a control, found by the words beside it. */
export function controlBy(panel: Element, label: string): HTMLElement | null {
  for (const words of panel.querySelectorAll(
    'label, legend, caption, h2, h3, button, span, select, input[aria-label]',
  )) {
    const text = words.matches('select, input') ? (words.getAttribute('aria-label') ?? '') : words.textContent;
    if (!text.trim().startsWith(label)) continue;
    if (words instanceof HTMLLabelElement && words.control) return words.control;
    const around = words.closest('label, fieldset, table, section, div')!;
    const control = words.matches('button, select, input')
      ? words
      : around.querySelector('input, select, textarea, button, pre');
    if (control instanceof HTMLElement) return control;
  }
  return null;
}
