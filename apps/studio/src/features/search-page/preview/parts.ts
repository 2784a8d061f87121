/**
 * The parts of a page that can be pointed at, by the names their controls have. What lies inside of something comes
 * before it.
 */
interface Part {
  part: string;
  selector: string;
  /** What a person calls it. */
  name: string;
}

const PARTS: readonly Part[] = [
  { part: 'shelves', selector: '[data-part=shelf]', name: 'Shelf' },
  { part: 'card-title', selector: '[data-part=card] h2', name: 'Title of a result' },
  { part: 'card-picture', selector: '[data-part=card] img', name: 'Picture of a result' },
  { part: 'card-second', selector: '[data-part=card-detail][data-line="2"]', name: 'Second line of a result' },
  { part: 'badges', selector: '[data-part=badges]', name: 'Badges' },
  { part: 'card-detail', selector: '[data-part=card-detail]', name: 'Detail of a result' },
  { part: 'card-text', selector: '[data-part=card-text]', name: 'Text of a result' },
  { part: 'card-former', selector: '[data-part=card-former]', name: 'Former number' },
  { part: 'card-number', selector: '[data-part=card-number]', name: 'Number of a result' },
  { part: 'card', selector: '[data-part=card]', name: 'Result' },
  { part: 'table', selector: '[data-part=table] thead', name: 'Columns of the table' },
  { part: 'start', selector: '[data-part=start]', name: 'Text before a search' },
  { part: 'sort', selector: '[data-part=sort]', name: 'Sorts' },
  { part: 'paging', selector: '[data-part=pages], [data-part=more]', name: 'Pages' },
  { part: 'near', selector: '[data-part=near]', name: 'Place to measure from' },
  { part: 'autocomplete', selector: '[data-part=popup]', name: 'Autocomplete' },
  { part: 'autocomplete', selector: '[data-part=bar]', name: 'Search field' },
  { part: 'filters', selector: '[data-part=filters]', name: 'Filters' },
  { part: 'results', selector: '[data-part=found], [data-part=table]', name: 'Results' },
  { part: 'header', selector: '.hosted-page header', name: 'Header' },
];

/** The part an element belongs to, with the element it is; a facet is `facet:{name}`. */
export function partAt(element: Element): { part: string; name: string; element: Element } | null {
  const facet = element.closest<HTMLElement>('[data-facet]');
  if (facet) {
    const head = facet.querySelector('legend, summary, [data-part=facet-toggle] > span')?.textContent;
    return { part: `facet:${facet.dataset.facet}`, name: `Filter: ${head ?? facet.dataset.facet}`, element: facet };
  }
  for (const { part, selector, name } of PARTS) {
    const found = element.closest(selector);
    if (found) return { part, name, element: found };
  }
  return null;
}

/** Where a part is on the page: its first element that can be seen. */
export function elementOf(part: string): Element | null {
  const facet = /^facet:(.+)$/.exec(part)?.[1];
  const selectors =
    facet === undefined
      ? PARTS.filter((one) => one.part === part).map(({ selector }) => selector)
      : [`[data-facet="${CSS.escape(facet)}"]`];
  for (const selector of selectors)
    for (const element of document.querySelectorAll(selector))
      if (element.getBoundingClientRect().height > 0) return element;
  return null;
}

/** What a person calls a part that has an element. */
export const nameOf = (element: Element): string => partAt(element)?.name ?? '';
