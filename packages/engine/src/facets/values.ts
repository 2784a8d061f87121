import type { FacetRule, FacetValue, ValuesFacet } from '@yucca/contract';
import type { Segment } from '../segment/segment.ts';

/** A chosen or counted facet, for one query over all segments. */
export interface ActiveFacet {
  rule: FacetRule;
  /** Chosen values; empty when the facet is only counted. */
  chosen: ReadonlySet<string>;
  counted: boolean;
}

/** One facet's share of one segment: which records pass, and the counts so far. */
interface FacetOnSegment {
  column: number;
  /** Per value number: 1 = chosen. `null` = nothing chosen. */
  chosen: Uint8Array | null;
  needed: number;
  matchAll: boolean;
  counts: Uint32Array | null;
}

/**
 * Filters by chosen values and counts, in one pass over the matching records. A record that passes every choice counts
 * everywhere; one that fails only a single facet counts in that facet alone, when its `match` is `any`: so each facet
 * shows what choosing another of its values would find.
 */
export class FacetCounter {
  readonly #active: readonly ActiveFacet[];
  readonly #totals: Map<string, number>[];
  readonly #missing: number[];

  constructor(active: readonly ActiveFacet[]) {
    this.#active = active;
    this.#totals = active.map(() => new Map<string, number>());
    this.#missing = active.map(() => 0);
  }

  /** Filters and counts a segment's matching records; answers the indexes into `docs` of those that pass every choice. */
  countSegment(segment: Segment, docs: Uint32Array): Uint32Array {
    const facets = this.#active.map((active) => onSegment(segment, active));
    const { kept, nearMisses } = sieve(segment, facets, docs);
    facets.forEach((facet, f) => {
      this.#count(segment, facet, f, docs, kept);
      if (nearMisses[f]) this.#count(segment, facet, f, docs, Uint32Array.from(nearMisses[f]));
      this.#collect(segment, facet, f);
    });
    return kept;
  }

  #count(
    segment: Segment,
    { counts, column }: FacetOnSegment,
    f: number,
    docs: Uint32Array,
    indexes: Uint32Array,
  ): void {
    if (counts === null) return;
    if (column === -1) {
      this.#missing[f]! += indexes.length;
      return;
    }
    const { docStarts, docValues } = segment.facets[column]!;
    let missing = 0;
    for (let i = 0; i < indexes.length; i++) {
      const doc = docs[indexes[i]!]!;
      const end = docStarts[doc + 1]!;
      let at = docStarts[doc]!;
      if (at === end) missing++;
      for (; at < end; at++) counts[docValues[at]!]!++;
    }
    this.#missing[f]! += missing;
  }

  #collect(segment: Segment, facet: FacetOnSegment, index: number): void {
    const totals = this.#totals[index]!;
    const { counts, column } = facet;
    if (counts === null) return;
    for (let value = 0; value < counts.length; value++) {
      if (counts[value] === 0) continue;
      const text = segment.facetValue(column, value);
      totals.set(text, (totals.get(text) ?? 0) + counts[value]!);
    }
  }

  /** The counted facets, by name. A chosen value stays listed even when it counts 0. */
  answer(): Record<string, ValuesFacet> {
    const facets: [string, ValuesFacet][] = [];
    this.#active.forEach(({ rule, chosen, counted }, index) => {
      if (!counted) return;
      const totals = new Map(this.#totals[index]);
      for (const value of chosen) if (!totals.has(value)) totals.set(value, 0);
      const all: FacetValue[] = [...totals].map(([value, count]) => ({
        value,
        label: value,
        count,
        selected: chosen.has(value),
      }));
      const listed = rule.order === 'value' ? firstByValue(all, rule.size) : mostCounted(all, rule.size);
      facets.push([
        rule.name,
        {
          kind: 'values',
          label: rule.label,
          values: listed,
          more: listed.length < all.length,
          missing: this.#missing[index]!,
        },
      ]);
    });
    return Object.fromEntries(facets);
  }
}

// Natural order, so that "10 cm" follows "9 cm"; code units break ties, so that the order is total.
const collator = new Intl.Collator('en', { numeric: true });
const byValue = (a: FacetValue, b: FacetValue): number =>
  collator.compare(a.value, b.value) || (a.value < b.value ? -1 : a.value > b.value ? 1 : 0);

function firstByValue(all: readonly FacetValue[], size: number): FacetValue[] {
  return [...all].sort(byValue).filter(({ selected }, rank) => rank < size || selected);
}

/**
 * The values with the highest counts, and the selected ones. Comparing texts by language is slow, so only values that may
 * be listed are compared: those that count no less than the last one that fits.
 */
function mostCounted(all: readonly FacetValue[], size: number): FacetValue[] {
  const counts = Uint32Array.from(all, ({ count }) => count).sort();
  const least = counts.length > size ? counts[counts.length - size]! : 0;
  return all
    .filter(({ count, selected }) => count >= least || selected)
    .sort((a, b) => b.count - a.count || byValue(a, b))
    .filter(({ selected }, rank) => rank < size || selected);
}

function onSegment(segment: Segment, { rule, chosen, counted }: ActiveFacet): FacetOnSegment {
  const column = segment.meta.facetFields.indexOf(rule.field);
  const values = column === -1 ? 0 : segment.facets[column]!.valueStarts.length - 1;
  let flags: Uint8Array | null = null;
  if (chosen.size > 0) {
    flags = new Uint8Array(values);
    for (let value = 0; value < values; value++) if (chosen.has(segment.facetValue(column, value))) flags[value] = 1;
  }
  const matchAll = rule.match === 'all';
  const needed = chosen.size === 0 ? 0 : matchAll ? chosen.size : 1;
  return { column, chosen: flags, needed, matchAll, counts: counted ? new Uint32Array(values) : null };
}

/** Which records pass every choice, and which fail that of one `any` facet alone (by the facet's place in the list). */
function sieve(
  segment: Segment,
  facets: readonly FacetOnSegment[],
  docs: Uint32Array,
): { kept: Uint32Array; nearMisses: (number[] | undefined)[] } {
  const kept = new Uint32Array(docs.length);
  const nearMisses: (number[] | undefined)[] = facets.map(() => undefined);
  const choosing = facets.flatMap((facet, place) => (facet.needed > 0 ? [{ facet, place }] : []));
  if (choosing.length === 0) {
    for (let index = 0; index < kept.length; index++) kept[index] = index;
    return { kept, nearMisses };
  }
  let count = 0;
  for (let index = 0; index < docs.length; index++) {
    let failed = -1;
    let failures = 0;
    for (const { facet, place } of choosing) {
      if (passes(segment, facet, docs[index]!)) continue;
      failed = place;
      if (++failures === 2) break;
    }
    if (failures === 0) kept[count++] = index;
    else if (failures === 1 && !facets[failed]!.matchAll) (nearMisses[failed] ??= []).push(index);
  }
  return { kept: kept.subarray(0, count), nearMisses };
}

function passes(segment: Segment, { column, chosen, needed }: FacetOnSegment, doc: number): boolean {
  if (column === -1) return false;
  const { docStarts, docValues } = segment.facets[column]!;
  let found = 0;
  for (let at = docStarts[doc]!, end = docStarts[doc + 1]!; at < end; at++) {
    if (chosen![docValues[at]!] === 1 && ++found === needed) return true;
  }
  return false;
}
