/**
 * Stands in the drop-in for the components that few pages use. They lie in a script of their own
 * (`yucca-search-more.js`), which is fetched before a page is drawn that needs one of them.
 */
import type { InterfacePage } from '@yucca/contract';
import { h, type FunctionComponent } from 'preact';
import * as jsx from 'preact/jsx-runtime';
import type { pagesUpTo as PagesUpTo } from '../../pages-up-to.ts';
import * as react from './react.ts';

type Props = Record<string, unknown>;

interface More {
  styles: string;
  pagesUpTo: typeof PagesUpTo;
  parts: Readonly<Record<string, FunctionComponent<Props>>>;
}

let more: More | null = null;

/** Whether a page has something on it that is not in the drop-in itself. */
export const needsMore = ({ layout, paging, places, facets }: InterfacePage): boolean =>
  paging !== 'pages' ||
  layout === 'places' ||
  places.length > 0 ||
  facets.some(({ kind, control }) => kind === 'dates' || control === 'select' || control === 'steps');

/** Fetches what few pages use; returns its style sheet. It draws with the components' library of this script. */
export async function loadMore(address: string): Promise<string> {
  Object.assign(globalThis, { yuccaLent: { react, jsx } });
  more ??= (await import(address)) as More;
  return more.styles;
}

/** Pages that grow are asked for when all of this is there. */
export const pagesUpTo: typeof PagesUpTo = (...args) => more!.pagesUpTo(...args);

const lent =
  (name: string): FunctionComponent<Props> =>
  (props) =>
    more && h(more.parts[name]!, props);

export const ResultMap = lent('ResultMap');
export const NearChoice = lent('NearChoice');
export const MoreResults = lent('MoreResults');
export const FacetDates = lent('FacetDates');
export const FacetSelect = lent('FacetSelect');
export const FacetSteps = lent('FacetSteps');
