import type { InterfacePage, SearchResult } from '@yucca/contract';

/** What `Badges` is given. */
export interface BadgesProps {
  page: Pick<InterfacePage, 'badges'>;
  result: Pick<SearchResult, 'meets'>;
}

/** The words on a result: of the conditions it meets. */
export function Badges({ page: { badges = [] }, result: { meets = [] } }: BadgesProps) {
  const shown = meets.flatMap((at) => badges[at] ?? []);
  if (shown.length === 0) return null;
  return (
    <ul data-part="badges">
      {shown.map(({ label, colour, ink }) => (
        <li key={label} data-part="badge" style={colour ? { background: colour, color: ink } : undefined}>
          {label}
        </li>
      ))}
    </ul>
  );
}
