/**
 * Times of answers are counted in buckets that grow by a twelfth of an octave, 6%: a percentile is 3% off at most.
 */
const PER_OCTAVE = 12;
/** Below this, in milliseconds, nobody minds how long it took. */
const LEAST_MS = 0.1;

export const bucketOf = (ms: number): number =>
  Math.max(0, Math.round(Math.log2(Math.max(ms, LEAST_MS) / LEAST_MS) * PER_OCTAVE));

/** The middle of a bucket, in milliseconds. */
export const middleOf = (bucket: number): number => LEAST_MS * 2 ** (bucket / PER_OCTAVE);

/** The time that a share of all answers took at most, of counts by bucket in their order; null when there are none. */
export function percentile(counts: readonly { bucket: number; searches: number }[], share: number): number | null {
  const all = counts.reduce((sum, { searches }) => sum + searches, 0);
  if (all <= 0) return null;
  let seen = 0;
  for (const { bucket, searches } of counts) {
    seen += searches;
    if (seen >= share * all) return Math.round(middleOf(bucket) * 100) / 100;
  }
  return null;
}
