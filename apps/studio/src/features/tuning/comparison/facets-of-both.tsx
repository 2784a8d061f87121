import type { SearchAnswer } from '@yucca/contract';
import clsx from 'clsx';
import { count } from '@/ui/format';
import { facetChanges } from './facet-changes';

/** Values of a facet shown at a time. */
const SHOWN = 6;

/** The facets of both answers side by side: what changes, and by how much. Counted only while it is open. */
export function FacetsOfBoth({
  before,
  after,
  open,
  onOpen,
}: {
  before: SearchAnswer | null;
  after: SearchAnswer | null;
  open: boolean;
  onOpen: (open: boolean) => void;
}) {
  const changes = facetChanges(before?.facets ?? {}, after?.facets ?? {});
  return (
    <details
      className="shrink-0 border-t border-line bg-raised px-4 py-1.5 text-[13px]"
      open={open}
      onToggle={(event) => onOpen(event.currentTarget.open)}
    >
      <summary className="min-h-6 font-head font-semibold">Facets of both</summary>
      {open && changes.length === 0 && <p className="text-soft">There are no facets. Choose some under Fields.</p>}
      <div
        className="grid max-h-48 grid-cols-3 gap-x-6 gap-y-3 overflow-y-auto py-1 xl:grid-cols-4"
        tabIndex={0}
        role="group"
        aria-label="Facets"
      >
        {open &&
          changes.map(({ name, label, values, ends }) => (
            <table key={name} className="w-full self-start">
              <caption className="text-left font-medium">{label}</caption>
              <tbody>
                {ends && <Row label="" before={ends.before} after={ends.after} />}
                {values.slice(0, SHOWN).map((one) => (
                  <Row
                    key={one.label}
                    label={one.label}
                    before={count(one.before)}
                    after={count(one.after)}
                    up={one.after > one.before}
                  />
                ))}
              </tbody>
            </table>
          ))}
      </div>
    </details>
  );
}

function Row({ label, before, after, up = false }: { label: string; before: string; after: string; up?: boolean }) {
  const same = before === after;
  return (
    <tr className={clsx('border-t border-line', same && 'text-soft')}>
      <th scope="row" className="max-w-28 truncate py-0.5 pr-2 text-left font-normal">
        {label}
      </th>
      <td className="figures text-right text-xs whitespace-nowrap">
        {same ? (
          before
        ) : (
          <>
            {before} <span aria-label="becomes">→</span>{' '}
            <span className={up ? 'text-agave' : 'text-clay'}>{after}</span>
          </>
        )}
      </td>
    </tr>
  );
}
