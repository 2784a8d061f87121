/** What few pages use: see small/more.ts. */
import { FacetDates } from '../react/facets/facet-dates.tsx';
import { FacetSelect } from '../react/facets/facet-select.tsx';
import { FacetSteps } from '../react/facets/facet-steps.tsx';
import { FacetTree } from '../react/facets/facet-tree.tsx';
import { NearChoice } from '../react/map/near-choice.tsx';
import { ResultMap } from '../react/map/result-map.tsx';
import { MoreResults } from '../react/results/more-results.tsx';
import { OfferPreview } from '../react/offer-preview.tsx';
import { Badges } from '../react/results/badges.tsx';
import { VoiceControl } from '../react/voice-control.tsx';
import { NothingFound } from '../react/results/nothing-found.tsx';
import { ResultTable } from '../react/results/result-table.tsx';
import { Shelves } from '../react/view/shelves.tsx';
import { addressSource, listSource } from '../autocomplete/own-sources.ts';
import { pagesUpTo } from '../pages-up-to.ts';
import { holdFocus } from '../react/view/sheet-focus.ts';
import { recordLink } from '../record-link.ts';
import { shelvesBeside } from '../shelf-requests.ts';
import styles from '../styles/more.css';
import { asAttributesSay } from './as-attributes-say.ts';

export { addressSource, asAttributesSay, holdFocus, listSource, pagesUpTo, recordLink, shelvesBeside, styles };
export const parts = {
  ...{ ResultMap, NearChoice, MoreResults, NothingFound, FacetDates, FacetSelect, FacetSteps, FacetTree },
  ...{ ResultTable, Shelves, Badges, OfferPreview, PageVoice: VoiceControl },
};
