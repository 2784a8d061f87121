import { facetValues, type FacetAnswer, type FacetValue, type SearchAnswer } from '@yucca/contract';
import { escapeValue, type Query } from '@yucca/kit';
import { Button, buttonLook } from '@/ui/button';
import { count } from '@/ui/format';

interface FacetListProps {
  answer: SearchAnswer;
  query: Query;
  onToggle: (facet: string, value: string) => void;
}

/**
 * The facets as lists of boxes to tick. Without JavaScript a button sends them with the form. On a phone they open on a
 * link to their place in the page, which works without JavaScript too.
 */
export function FacetList({ answer, query, onToggle }: FacetListProps) {
  const chosen = Object.values(query.select).reduce((sum, values) => sum + values.length, 0);
  return (
    <div className="mb-4">
      <a href="#filters" className={buttonLook() + ' md:hidden'}>
        Filters{chosen > 0 && ` (${chosen})`}
      </a>
      <div id="filters" className="scroll-mt-2 max-md:[&:not(:target)]:hidden">
        <a href="#results" className={buttonLook() + ' mb-3 md:hidden'}>
          See {count(answer.total)} {answer.total === 1 ? 'result' : 'results'}
        </a>
        {Object.entries(answer.facets).map(([name, facet]) => (
          <Facet key={name} name={name} facet={facet} chosen={query.select[name] ?? []} onToggle={onToggle} />
        ))}
        <noscript>
          <Button type="submit">Apply filters</Button>
        </noscript>
      </div>
    </div>
  );
}

const LISTED = 8;

interface FacetProps {
  name: string;
  facet: FacetAnswer;
  chosen: readonly string[];
  onToggle: FacetListProps['onToggle'];
}

function Facet({ name, facet, chosen, onToggle }: FacetProps) {
  const values = facetValues(facet);
  if (values.length === 0) return null;
  const most = Math.max(1, ...values.map(({ count: found }) => found));
  const row = ({ value, label, count: found }: FacetValue) => (
    <li key={value}>
      <label className="relative flex min-h-7 items-center gap-2 px-1">
        <span
          aria-hidden="true"
          className="absolute inset-y-0.5 left-0 rounded-sm bg-agave-tint"
          style={{ width: `${(100 * found) / most}%` }}
        />
        <input
          type="checkbox"
          name={name}
          value={escapeValue(value)}
          checked={chosen.includes(value)}
          onChange={() => onToggle(name, value)}
          className="relative"
        />
        <span title={label} className="relative min-w-0 truncate">
          {label}
        </span>
        <span className="figures relative ml-auto text-xs text-soft">{count(found)}</span>
      </label>
    </li>
  );
  // Chosen values stay in sight, wherever the counts put them.
  const ordered = [...values].sort((a, b) => Number(chosen.includes(b.value)) - Number(chosen.includes(a.value)));
  return (
    <fieldset className="mb-5 min-w-0">
      <legend className="mb-1 font-head font-semibold">{facet.label}</legend>
      <ul>{ordered.slice(0, LISTED).map(row)}</ul>
      {ordered.length > LISTED && (
        <details>
          <summary className="link min-h-6 px-1">More</summary>
          <ul>{ordered.slice(LISTED).map(row)}</ul>
        </details>
      )}
    </fieldset>
  );
}
