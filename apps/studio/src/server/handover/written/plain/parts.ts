/** Files of a project without a framework that are the same for every design. */

/** Elements, without a library. */
export const DOM_FILE = `import { markedPieces, type ShownText } from '@yucca/kit';

type Child = Node | string | number | null | undefined | false;

/** Makes an element. What begins with "on" listens, \`true\` is an attribute without a value. */
export function element<K extends keyof HTMLElementTagNameMap>(
  name: K,
  attributes: Record<string, string | boolean | ((event: Event) => void) | undefined> = {},
  ...children: Child[]
): HTMLElementTagNameMap[K] {
  const made = document.createElement(name);
  for (const [attribute, value] of Object.entries(attributes)) {
    if (typeof value === 'function') made.addEventListener(attribute.slice(2), value);
    else if (value === true) made.setAttribute(attribute, '');
    else if (typeof value === 'string') made.setAttribute(attribute, value);
  }
  made.append(...children.filter((child) => child !== null && child !== undefined && child !== false).map((child) => (typeof child === 'number' ? String(child) : child)));
  return made;
}

/** A text with what was found in it marked. */
export const marked = ({ text, ranges }: ShownText): Node[] =>
  markedPieces(text, ranges).map((piece) =>
    piece.marked ? element('mark', {}, piece.text) : document.createTextNode(piece.text),
  );

/** A link to a query: a plain click is answered in place, any other is the browser’s. */
export const link = (href: string, follow: () => void, attributes: Record<string, string>, ...children: Child[]): HTMLElement =>
  element(
    'a',
    {
      ...attributes,
      href,
      onclick: (event) => {
        const { metaKey, ctrlKey, shiftKey, altKey, button } = event as MouseEvent;
        if (metaKey || ctrlKey || shiftKey || altKey || button !== 0) return;
        event.preventDefault();
        follow();
      },
    },
    ...children,
  );
`;

/** The state and the address. */
export const ADDRESS_FILE = `import { addressMap, type Query, type SearchState } from '@yucca/kit';
import { FACETS } from './facets';

const ADDRESS = addressMap(FACETS);

/** Typing is written into the address once it rests: browsers allow only so many changes a minute. */
const REST_MS = 150;

/** What the address asks for. */
export const asked = (): Query => ADDRESS.read(window.location).query;

/**
 * Keeps a state and the address in step. Returns the function to change the query with: \`replace\` while somebody
 * types, \`push\` for what shall be a step to go back.
 */
export function inAddress(state: SearchState): (query: Query, how: 'replace' | 'push') => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let late: (() => void) | null = null;
  const writeLate = (): void => {
    clearTimeout(timer);
    late?.();
    late = null;
  };
  window.addEventListener('popstate', () => {
    clearTimeout(timer);
    late = null;
    state.ask(asked());
  });
  window.addEventListener('pagehide', writeLate);
  return (query, how) => {
    const { kept } = ADDRESS.read(window.location);
    const address = ADDRESS.write(query, window.location, kept);
    if (how === 'push') {
      writeLate();
      window.history.pushState(null, '', address);
    } else {
      clearTimeout(timer);
      late = () => window.history.replaceState(null, '', address);
      timer = setTimeout(writeLate, REST_MS);
    }
    state.ask(query);
  };
}
`;

/** The search field: a combobox with a listbox, as the ARIA Authoring Practices describe it. */
export const FIELD_FILE = `import { Autocomplete, type Offer, type Suggestion, type ViewedRecord } from '@yucca/kit';
import { element, marked } from './dom';
import { sources } from './sources';
import { TEXTS } from './texts';
import { memory } from './yucca';

export interface FieldActions {
  onText: (text: string) => void;
  /** Asks for good. */
  onAsk: (text: string) => void;
  onValue: (facet: string, value: string) => void;
  onRecord: (record: ViewedRecord) => void;
  /** Settles when the results of what was typed are there: offers are asked for after them. */
  after: () => Promise<unknown>;
}

/** The search field, and what tells it a text that came from elsewhere. */
export function searchField({ onText, onAsk, onValue, onRecord, after }: FieldActions) {
  const offers = new Autocomplete({ sources: sources(), after });
  const list = element('div', { id: 'offers', role: 'listbox', 'data-part': 'list', 'aria-label': TEXTS.search });
  const popup = element('div', { 'data-part': 'popup', hidden: true }, list);
  const input = element('input', {
    type: 'search',
    name: 'q',
    role: 'combobox',
    autocomplete: 'off',
    placeholder: TEXTS.search,
    'data-part': 'input',
    'aria-label': TEXTS.search,
    'aria-autocomplete': 'list',
    'aria-controls': 'offers',
    'aria-expanded': 'false',
    oninput: () => {
      onText(input.value);
      offers.type(input.value);
    },
    onclick: () => offers.open(),
    onkeydown: (event) => onKey(event as KeyboardEvent),
    onblur: () => offers.close(),
  });
  const choose = (offer: Offer): void => {
    offers.close();
    if (offer.kind === 'value') {
      const { facet, value } = offer.data as Suggestion;
      if (facet !== undefined && value !== undefined) onValue(facet, value);
    } else if (offer.kind === 'viewed') onRecord(offer.data as ViewedRecord);
    else if (offer.kind === 'record') {
      const { collection, result } = offer.data as { collection: string; result: { id: string } };
      onRecord({ collection, id: result.id, text: offer.text });
    } else {
      memory.addQuery(offer.text);
      onAsk(offer.text);
    }
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.isComposing) return;
    const { open, offers: rows, active } = offers.snapshot();
    const pointed = open ? rows[active] : undefined;
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      if (open) offers.move(event.key === 'ArrowDown' ? 'next' : 'previous');
      else offers.open();
      event.preventDefault();
    } else if (event.key === 'Escape' && open) {
      offers.close();
      event.preventDefault();
    } else if (event.key === 'Enter') {
      if (pointed) {
        event.preventDefault();
        choose(pointed);
      } else {
        memory.addQuery(input.value);
        offers.close();
      }
    } else if (event.key === 'Delete' && event.shiftKey && pointed) {
      offers.remove(pointed);
      event.preventDefault();
    }
  };
  const row = (offer: Offer, place: number): HTMLElement => {
    const { active } = offers.snapshot();
    const { text, ranges = [], detail, picture } = offer;
    return element(
      'div',
      {
        id: \`offer-\${place}\`,
        role: 'option',
        'data-part': 'offer',
        'aria-selected': String(place === active),
        // The field keeps the focus: a press on a row must not take it.
        onpointerdown: (event) => event.preventDefault(),
        onclick: () => choose(offer),
      },
      picture && element('img', { src: picture, alt: '', width: '32', height: '32' }),
      element('span', { 'data-part': 'offer-text' }, ...marked({ text, ranges: [...ranges] }), detail && \` \${detail}\`),
    );
  };
  offers.subscribe(() => {
    const { open, sections, offers: rows, active } = offers.snapshot();
    const shown = open && rows.length > 0;
    popup.hidden = !shown;
    input.setAttribute('aria-expanded', String(shown));
    if (shown && active >= 0) input.setAttribute('aria-activedescendant', \`offer-\${active}\`);
    else input.removeAttribute('aria-activedescendant');
    let place = 0;
    list.replaceChildren(
      ...sections.map(({ label, offers: own }) =>
        element(
          'div',
          { role: 'group', 'data-part': 'section', 'aria-label': label },
          element('div', { 'data-part': 'heading' }, label),
          ...own.map((offer) => row(offer, place++)),
        ),
      ),
    );
  });
  return {
    element: element('div', { 'data-part': 'search-field' }, input, popup),
    /** The text, when Back or a link changed it. */
    settle: (text: string): void => {
      if (input.value === text) return;
      input.value = text;
      offers.settle(text);
    },
  };
}
`;

/** The filters. */
export const FILTERS_FILE = `import { chosenValues, facetValues, isRange, withRange, withToggled, type Query, type SearchAnswer } from '@yucca/kit';
import { element } from './dom';
import { FACETS } from './facets';
import { PAGE_TEXTS } from './texts';

/** The filters of an answer, in their order. A number is chosen by two ends, everything else by its values. */
export function filters(answer: SearchAnswer, query: Query, go: (query: Query) => void): HTMLElement {
  return element(
    'div',
    { 'data-part': 'facets' },
    ...FACETS.map(({ name, label, shown = 8 }) => {
      const facet = answer.facets[name];
      if (!facet) return null;
      const heading = element('legend', {}, label);
      const part = { 'data-part': 'facet', 'data-facet': name };
      if (facet.kind === 'numbers') return element('fieldset', part, heading, ...ends(name, label, facet, query, go));
      const chosen = chosenValues(query, name);
      const values = facetValues(facet).filter(({ value, count }) => count > 0 || chosen.includes(value));
      if (values.length === 0) return null;
      return element(
        'fieldset',
        part,
        heading,
        ...values.slice(0, Math.max(shown, chosen.length)).map(({ value, label: text = value, count }) =>
          element(
            'label',
            { 'data-part': 'facet-value' },
            element('input', {
              type: 'checkbox',
              name,
              value,
              checked: chosen.includes(value),
              onchange: () => go(withToggled(query, name, value)),
            }),
            element('span', {}, text),
            element('span', { 'data-part': 'figure' }, PAGE_TEXTS.count(count)),
          ),
        ),
      );
    }),
  );
}

/** The two ends of a number. */
function ends(
  name: string,
  label: string,
  { min, max }: { min: number | null; max: number | null },
  query: Query,
  go: (query: Query) => void,
): HTMLElement[] {
  if (min === null || max === null) return [];
  const choice = query.select[name];
  const range = isRange(choice) ? choice : {};
  const end = (which: 'min' | 'max', words: string, usual: number): HTMLElement =>
    element(
      'label',
      {},
      element('input', {
        'aria-label': words,
        type: 'number',
        min: String(min),
        max: String(max),
        step: 'any',
        value: String(range[which] ?? usual),
        onchange: (event) => {
          const { valueAsNumber: value } = event.target as HTMLInputElement;
          const next = { ...range, [which]: Number.isNaN(value) || value === usual ? undefined : value };
          const { min: from, max: to } = next as { min?: number; max?: number };
          go(withRange(query, name, { ...(from !== undefined && { min: from }), ...(to !== undefined && { max: to }) }));
        },
      }),
    );
  return [
    end('min', PAGE_TEXTS.say('atLeast', { facet: label }), min),
    end('max', PAGE_TEXTS.say('atMost', { facet: label }), max),
  ];
}
`;
