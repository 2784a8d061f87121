import { wordAt } from '../segment/trie.ts';
import type { Generation } from '../segment/generation.ts';

/** Some words of a collection, from all over its dictionary. */
export function sampleWords({ segments }: Generation, count: number): string[] {
  const largest = segments.reduce<(typeof segments)[number] | null>(
    (best, one) => (best === null || one.segment.docs > best.segment.docs ? one : best),
    null,
  );
  if (largest === null) return [];
  const { trie, meta } = largest.segment;
  const step = Math.max(1, Math.floor(meta.terms / count));
  return Array.from({ length: Math.min(count, meta.terms) }, (_, i) => wordAt(trie, (i * step) % meta.terms));
}
