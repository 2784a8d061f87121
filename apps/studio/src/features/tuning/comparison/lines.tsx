import { memo } from 'react';
import type { Movement } from './movement';

export const ROW_PX = 44;
const GAP_PX = 96;

/**
 * The lines from where each result stood to where it stands: solid rising, dashed falling, dotted for new ones. `rows`
 * are drawn; what stands at `shown` or further down comes in, or goes out, at the lower edge.
 */
export const Lines = memo(function Lines({
  moved,
  rows,
  shown,
}: {
  moved: readonly Movement[];
  rows: number;
  shown: number;
}) {
  const y = (row: number): number => (row < shown ? row * ROW_PX + ROW_PX / 2 : rows * ROW_PX);
  return (
    <svg width={GAP_PX} height={rows * ROW_PX} aria-hidden="true" data-part="movement">
      {moved.map(({ id, left, right, kind }) => {
        if (right === null || (right >= shown && (left ?? shown) >= shown)) return null;
        if (left === null)
          return (
            <line
              key={id}
              data-kind={kind}
              x1={GAP_PX * 0.6}
              y1={y(right)}
              x2={GAP_PX - 6}
              y2={y(right)}
              stroke="var(--agave)"
              strokeWidth={1.5}
              strokeDasharray="1.5 4"
              strokeLinecap="round"
            />
          );
        const path = `M6 ${y(left)} C ${GAP_PX / 2} ${y(left)}, ${GAP_PX / 2} ${y(right)}, ${GAP_PX - 6} ${y(right)}`;
        const stroke = { same: 'var(--line)', rises: 'var(--agave)', falls: 'var(--clay)', enters: '', leaves: '' }[kind]; // prettier-ignore
        return (
          <path
            key={id}
            data-kind={kind}
            d={path}
            fill="none"
            stroke={stroke}
            strokeWidth={1.5}
            {...(kind === 'falls' && { strokeDasharray: '6 4' })}
          />
        );
      })}
    </svg>
  );
});
