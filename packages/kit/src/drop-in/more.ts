/** What few pages use: see small/more.ts. */
import { FacetDates } from '../react/facets/facet-dates.tsx';
import { FacetSelect } from '../react/facets/facet-select.tsx';
import { FacetSteps } from '../react/facets/facet-steps.tsx';
import { NearChoice } from '../react/map/near-choice.tsx';
import { ResultMap } from '../react/map/result-map.tsx';
import { MoreResults } from '../react/results/more-results.tsx';
import { NothingFound } from '../react/results/nothing-found.tsx';
import { pagesUpTo } from '../pages-up-to.ts';
import styles from '../styles/more.css';

export { pagesUpTo, styles };
export const parts = { ResultMap, NearChoice, MoreResults, NothingFound, FacetDates, FacetSelect, FacetSteps };
