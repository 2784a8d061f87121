import type { InterfacePage } from '@yucca/contract';
import { constant } from './literal';

/** A link of the page's header, as it is elsewhere. */
export const linkFrom = (server: string, href: string): string => (href.startsWith('/') ? server + href : href);

/** The texts of the page that are its own. */
export function textsFile({ title, header }: InterfacePage): string {
  return `/** The page’s own texts. */
export const TEXTS = {
  name: ${JSON.stringify(header?.name ?? title)},
  search: ${JSON.stringify(`Search ${title}`)},
  submit: 'Search',
  searching: 'Searching …',
};
`;
}

/** What can be filtered and sorted by. */
export function facetsFile({ facets, sorts, geo, places }: InterfacePage): string {
  const parts = [
    constant('FACETS', facets, 'The filters, in their order, and how each is shown.', ": InterfacePage['facets']"),
    ...(sorts.length > 0 ? [constant('SORTS', sorts, 'Orders beside the usual one.')] : []),
    ...(geo !== null && places.length > 0 ? [constant('PLACES', places, 'Where distances can be measured from.')] : []),
  ];
  return `import type { InterfacePage } from '@yucca/kit';\n\n${parts.join('\n')}`;
}
