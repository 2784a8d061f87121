const WIDTH = 120;
const HEIGHT = 20;

/** A curve without axes; the numbers stand beside it. */
export function Sparkline({ values }: { values: readonly number[] }) {
  const most = Math.max(1, ...values);
  const step = WIDTH / Math.max(1, values.length - 1);
  const points = values.map(
    (value, i) => `${(i * step).toFixed(1)},${(HEIGHT - 1 - (value / most) * (HEIGHT - 2)).toFixed(1)}`,
  );
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true" className="shrink-0 text-ink">
      <polyline points={points.join(' ')} fill="none" stroke="currentColor" strokeWidth="1.25" />
    </svg>
  );
}
