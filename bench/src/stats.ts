export const round = (value: number, digits = 2): number => Number(value.toFixed(digits));

/** The value below which a share of sorted numbers lies. */
export function quantile(sorted: readonly number[], share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;
}

/** Median, 95th and 99th percentile. */
export function percentiles(times: readonly number[]): { medianMs: number; p95Ms: number; p99Ms: number } {
  const sorted = [...times].sort((a, b) => a - b);
  return {
    medianMs: round(quantile(sorted, 0.5)),
    p95Ms: round(quantile(sorted, 0.95)),
    p99Ms: round(quantile(sorted, 0.99)),
  };
}

/** Milliseconds that something takes. */
export function timed(run: () => unknown): number {
  const start = performance.now();
  run();
  return performance.now() - start;
}
