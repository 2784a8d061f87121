import { useTexts } from '../use-texts.ts';
import { withSort, type Query } from '../../query.ts';

/** What `SortChoice` is given. */
export interface SortChoiceProps {
  query: Query;
  sorts: readonly { name: string; label: string }[];
  /** Takes the query with another order. */
  onQuery: (query: Query) => void;
  /** What the order is called when none is chosen. */
  usual?: string;
}

/** The orders to choose from. */
export function SortChoice({ query, sorts, onQuery, usual }: SortChoiceProps) {
  const { say } = useTexts();
  if (sorts.length === 0) return null;
  return (
    <label data-part="sort">
      <span>{say('sortBy')}</span>
      <select
        name="sort"
        value={query.sort ?? ''}
        onChange={(event) => onQuery(withSort(query, event.target.value || null))}
      >
        <option value="">{usual ?? say('bestMatch')}</option>
        {sorts.map(({ name, label }) => (
          <option key={name} value={name}>
            {label}
          </option>
        ))}
      </select>
    </label>
  );
}
