/** Values a list shows at a glance; longer ones are searched in, and worth less the longer they are. */
const AT_A_GLANCE = 30;

/**
 * How useful a list of values is, 0 to 1: the share of records it reaches, how evenly it parts them (1 = all values
 * alike often), and whether it can be read.
 */
export function facetWorth(coverage: number, distinct: number, evenness: number): number {
  if (distinct < 2) return 0;
  const readable = distinct <= AT_A_GLANCE ? 1 : Math.sqrt(AT_A_GLANCE / distinct);
  // One of two values parts less than one of ten, however even.
  const parting = 1 - 1 / (1 + Math.log2(distinct));
  return coverage * readable * (0.3 + 0.7 * evenness) * parting;
}

/**
 * Shannon's entropy of some counts over the most there could be with so many values, 0 to 1. Counts that are not listed
 * are taken to be alike.
 */
export function evennessOf(counts: readonly number[], all: number, distinct: number): number {
  if (distinct < 2 || all === 0) return 0;
  const listed = counts.reduce((sum, count) => sum + count, 0);
  const others = Math.max(0, distinct - counts.length);
  const each = others === 0 ? 0 : Math.max(0, all - listed) / others;
  const part = (count: number): number => (count <= 0 ? 0 : -(count / all) * Math.log2(count / all));
  const entropy = counts.reduce((sum, count) => sum + part(count), 0) + others * part(each);
  return Math.min(1, entropy / Math.log2(distinct));
}
