/** How much the next rank weighs against the one before: 0.9 gives the first ten ranks 86% of the weight. */
const PERSISTENCE = 0.9;

/**
 * How alike two rankings are, from 0 (nothing in common) to 1 (the same), with the first ranks counting most:
 * rank-biased overlap, extrapolated from what is known of both (Webber, Moffat, Zobel 2010, equation 32). The lists may
 * differ in length; what stands in them is compared by identity. Two empty rankings are the same.
 */
export function rankBiasedOverlap(a: readonly string[], b: readonly string[], p = PERSISTENCE): number {
  const [short, long] = a.length <= b.length ? [a, b] : [b, a];
  const [s, l] = [short.length, long.length];
  if (l === 0) return 1;
  if (s === 0) return 0;
  const seen = new Set<string>();
  let common = 0;
  let sum = 0;
  let commonAtShort = 0;
  for (let depth = 1; depth <= l; depth++) {
    for (const one of new Set([long[depth - 1]!, ...(depth <= s ? [short[depth - 1]!] : [])])) {
      const twice = depth <= s && long[depth - 1] === short[depth - 1];
      if (twice || seen.has(one)) common++;
      seen.add(one);
    }
    if (depth === s) commonAtShort = common;
    sum += (common / depth) * p ** depth;
    // Past the end of the shorter list its agreement is taken to go on as it was.
    if (depth > s) sum += ((commonAtShort * (depth - s)) / (s * depth)) * p ** depth;
  }
  const rest = ((common - commonAtShort) / l + commonAtShort / s) * p ** l;
  return Math.min(1, ((1 - p) / p) * sum + rest);
}
