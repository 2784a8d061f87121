/**
 * Stands in the drop-in for the components that few pages use. They lie in a script of their own
 * (`yucca-search-more.js`), which is fetched before a page is drawn that needs one of them.
 */
import type { InterfacePage } from '@yucca/contract';
import { h, type FunctionComponent } from 'preact';
import { Fragment, jsx, jsxs } from 'preact/jsx-runtime';
import type { pagesUpTo as PagesUpTo } from '../../pages-up-to.ts';
import { useTexts } from '../../react/use-texts.ts';
import * as react from './react.ts';

type Props = Record<string, unknown>;

interface More {
  styles: string;
  pagesUpTo: typeof PagesUpTo;
  parts: Readonly<Record<string, FunctionComponent<Props>>>;
}

let more: More | null = null;
/** Where the script lies; where nothing has said so, it is not asked for. */
let lies = '';

/** Says where the script lies: some of it is asked for only when it is to be seen. */
export const moreLiesAt = (address: string): void => void (lies = address);

/** Whether a page has something on it that is not in the drop-in itself. */
export const needsMore = ({ layout, paging, places, facets, filters }: InterfacePage): boolean =>
  paging !== 'pages' ||
  filters === 'sheet' ||
  layout === 'places' ||
  places.length > 0 ||
  facets.some(({ kind, control }) => kind === 'dates' || control === 'select' || control === 'steps');

/** Fetches what few pages use; returns its style sheet. It draws with the components' library of this script. */
export async function loadMore(): Promise<string> {
  Object.assign(globalThis, { yuccaLent: { react, jsx: { Fragment, jsx, jsxs }, useTexts } });
  more ??= (await import(lies)) as More;
  return more.styles;
}

/** Pages that grow are asked for when all of this is there. */
export const pagesUpTo: typeof PagesUpTo = (...args) => more!.pagesUpTo(...args);

const lent =
  (name: string): FunctionComponent<Props> =>
  (props) =>
    more && h(more.parts[name]!, props);

/** Seldom seen: it is fetched when nothing was found, and what was found is said already. */
export const NothingFound: FunctionComponent<Props> = (props) => {
  const [isThere, setIsThere] = react.useState(more !== null);
  react.useEffect(() => {
    if (!isThere)
      loadMore().then(
        () => setIsThere(true),
        () => {},
      );
  }, [isThere]);
  return more && h(more.parts.NothingFound!, props);
};

export const ResultMap = lent('ResultMap');
export const NearChoice = lent('NearChoice');
export const MoreResults = lent('MoreResults');
export const FacetDates = lent('FacetDates');
export const FacetSelect = lent('FacetSelect');
export const FacetSteps = lent('FacetSteps');
