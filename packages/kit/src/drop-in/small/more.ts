/**
 * Stands in the drop-in for the components that few pages use. They lie in a script of their own
 * (`yucca-search-more.js`), which is fetched before a page is drawn that needs one of them.
 */
import type { InterfacePage } from '@yucca/contract';
import { h, type FunctionComponent } from 'preact';
import { Fragment, jsx, jsxs } from 'preact/jsx-runtime';
import type { asAttributesSay as AsAttributesSay } from '../as-attributes-say.ts';
import type { parts as Parts } from '../more.ts';
import type { addressSource as AddressSource, listSource as ListSource } from '../../autocomplete/own-sources.ts';
import type { pagesUpTo as PagesUpTo } from '../../pages-up-to.ts';
import type { recordLink as RecordLink } from '../../record-link.ts';
import { useTexts } from '../../react/use-texts.ts';
import type { holdFocus as HoldFocus } from '../../react/view/sheet-focus.ts';
import type { shelvesBeside as ShelvesBeside } from '../../shelf-requests.ts';
import * as react from './react.ts';

type Props = Record<string, unknown>;
type Part = keyof typeof Parts;

interface More {
  styles: string;
  pagesUpTo: typeof PagesUpTo;
  shelvesBeside: typeof ShelvesBeside;
  holdFocus: typeof HoldFocus;
  recordLink: typeof RecordLink;
  listSource: typeof ListSource;
  addressSource: typeof AddressSource;
  asAttributesSay: typeof AsAttributesSay;
  parts: Readonly<Record<Part, unknown>>;
}

let more: More | null = null;
let sheet: CSSStyleSheet | undefined;
/** Where the script lies; where nothing has said so, it is not asked for. */
let lies = '';

/** Says where the script lies: some of it is asked for only when it is to be seen. */
export const moreLiesAt = (address: string): void => void (lies = address);

/** Whether a page has something on it that is not in the drop-in itself. */
export const needsMore = ({
  layout,
  density,
  paging,
  places,
  facets,
  filters,
  shelves,
  badges,
  start,
  link,
  autocomplete,
}: InterfacePage): boolean =>
  paging !== 'pages' ||
  filters !== 'left' ||
  layout !== 'cards' ||
  density === 'dense' ||
  shelves !== undefined ||
  badges !== undefined ||
  start !== undefined ||
  link !== undefined ||
  autocomplete.some(({ from, link: other }) => from === 'list' || from === 'address' || other !== undefined) ||
  places.length > 0 ||
  facets.some(({ kind, control }) => kind === 'dates' || kind === 'tree' || control !== undefined);

/** Fetches what few pages use; returns its style sheet. It draws with the components' library of this script. */
export async function loadMore(): Promise<CSSStyleSheet> {
  Object.assign(globalThis, { yuccaLent: { react, jsx: { Fragment, jsx, jsxs }, useTexts } });
  more ??= (await import(lies)) as More;
  if (!sheet) {
    sheet = new CSSStyleSheet();
    sheet.replaceSync(more.styles);
  }
  return sheet;
}

/** Pages that grow are asked for when all of this is there. */
export const pagesUpTo: typeof PagesUpTo = (...args) => more!.pagesUpTo(...args);
export const shelvesBeside: typeof ShelvesBeside = (page) => (page.shelves && more ? more.shelvesBeside(page) : []);
export const recordLink: typeof RecordLink = (...args) => more?.recordLink(...args);

/** A sheet is opened seldom, and is there at once: what keeps the focus in it may come a moment later. */
export const holdFocus: typeof HoldFocus = (sheet, close) => {
  let letGo: (() => void) | null = () => {};
  loadMore().then(
    () => letGo && (letGo = more!.holdFocus(sheet, close)),
    () => {},
  );
  return () => {
    letGo?.();
    letGo = null;
  };
};
export const listSource: typeof ListSource = (...args) => more!.listSource(...args);
/** The script is there where the element has something of it. */
export const asAttributesSay: typeof AsAttributesSay = (...args) => (more ? more.asAttributesSay(...args) : args[0]);
export const addressSource: typeof AddressSource = (...args) => more!.addressSource(...args);

const lent =
  (name: Part): FunctionComponent<Props> =>
  (props) =>
    more && h(more.parts[name] as FunctionComponent<Props>, props);

/** Seldom seen, or not at once: it is fetched when it is to be drawn, and what is around it is there already. */
const onDemand =
  (name: Part): FunctionComponent<Props> =>
  (props) => {
    const [isThere, setIsThere] = react.useState(more !== null);
    react.useEffect(() => {
      if (!isThere)
        loadMore().then(
          () => setIsThere(true),
          () => {},
        );
    }, [isThere]);
    return more && h('div', { ref: styled }, h(more.parts[name] as FunctionComponent<Props>, props));
  };

/** Gives the tree that an element stands in the style sheet, where it came after the page. */
const styled = (element: Element | null): void => {
  const sheets = (element?.getRootNode() as ShadowRoot | undefined)?.adoptedStyleSheets;
  if (sheets && sheet && !sheets.includes(sheet)) sheets.push(sheet);
};

export const NothingFound = onDemand('NothingFound');
export const OfferPreview = onDemand('OfferPreview');
export const PageVoice = onDemand('PageVoice');
export const ResultMap = lent('ResultMap');
export const NearChoice = lent('NearChoice');
export const MoreResults = lent('MoreResults');
export const FacetDates = lent('FacetDates');
export const FacetSelect = lent('FacetSelect');
export const FacetSteps = lent('FacetSteps');
export const FacetTree = lent('FacetTree');
export const Badges = lent('Badges');
export const ResultTable = lent('ResultTable');
export const Shelves = lent('Shelves');
