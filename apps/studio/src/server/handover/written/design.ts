import type { InterfacePage } from '@yucca/contract';
import { constant } from './literal';

/** Whether what stands on a page is more than a field, filters and a list: then the kit's whole view is written. */
export const isWholeView = ({ layout, shelves, start }: InterfacePage): boolean =>
  layout === 'table' || shelves !== undefined || start !== undefined;

/** Whether the field offers what is said in its design alone: rows of its own, an address, rows by their parts. */
export const hasOwnSections = ({ autocomplete, typing, link }: InterfacePage): boolean =>
  typing !== undefined ||
  link !== undefined ||
  autocomplete.some(
    ({ from, letters, parts, link: other }) =>
      from === 'list' || from === 'address' || letters !== undefined || parts !== undefined || other !== undefined,
  );

/** Whether parts of the page are drawn from its design as data. */
export const hasDesign = (page: InterfacePage): boolean => isWholeView(page) || hasOwnSections(page);

/** The design of the page as data, as Yucca says it. */
export const designFile = (page: InterfacePage): string =>
  `import type { InterfacePage } from '@yucca/kit';\n\n${constant('PAGE', page, 'How the page is made up: what stands on it, in which order, and how it is shown.', ': InterfacePage')}`;
