import type { FacetAnswer, FacetRule, SearchRequest, Tuning } from '@yucca/contract';
import type { Segment } from '../segment/segment.ts';
import type { DocSet } from '../sets/doc-set.ts';
import { Results } from '../sets/results.ts';
import { isChoice, type Choice, type Facet } from './facet.ts';
import { MAKE_FACET } from './kinds.ts';

interface Active {
  rule: FacetRule;
  facet: Facet;
  chosen: boolean;
  counted: boolean;
  /** Whether what is chosen here narrows the counts of this facet itself. */
  narrowsItself: boolean;
}

/** The facets of one query: what was chosen narrows the results, what was asked for is counted. */
export class Selection {
  readonly #active: Active[];

  constructor(tuning: Tuning, { facets = [], select = {} }: SearchRequest) {
    this.#active = tuning.facets.flatMap((rule) => {
      const choice: Choice | undefined = Object.hasOwn(select, rule.name) ? select[rule.name] : undefined;
      const chosen = isChoice(choice);
      const counted = facets.includes('*') || facets.includes(rule.name);
      if (!chosen && !counted) return [];
      const narrowsItself = rule.kind === 'values' && rule.match === 'all';
      return [{ rule, facet: MAKE_FACET[rule.kind](rule, choice), chosen, counted, narrowsItself }];
    });
  }

  /**
   * Narrows a segment's matches by all choices and counts the facets: each over what all *other* choices leave, so that
   * it shows what choosing another of its values would find. `within` is a kept set that holds all matches, if there is
   * one. Returns the results.
   */
  apply(segment: Segment, matches: DocSet, within: DocSet | null = null): Results {
    const chosen = this.#active.filter((active) => active.chosen);
    const sets = new Map(chosen.map((active) => [active, active.facet.chosen(segment)]));
    const narrowed = (except: Active | null): DocSet => {
      if (chosen.length === 0) return matches;
      const set = matches.copy();
      for (const active of chosen) if (active !== except) set.and(sets.get(active)!);
      return set;
    };
    const results = new Results(narrowed(null), within);
    for (const active of this.#active) {
      if (!active.counted) continue;
      const own = active.chosen && !active.narrowsItself ? new Results(narrowed(active), within) : results;
      active.facet.count(segment, own);
    }
    return results;
  }

  /** Whether no match in any segment passes all choices. Counts nothing. */
  leavesNothing(segments: readonly { segment: Segment }[], matches: readonly DocSet[]): boolean {
    const chosen = this.#active.filter((active) => active.chosen);
    return segments.every(({ segment }, i) => {
      // Most of the time it is known without looking at the choices.
      if (chosen.length === 0 || matches[i]!.isEmpty()) return matches[i]!.isEmpty();
      const left = matches[i]!.copy();
      for (const { facet } of chosen) left.and(facet.chosen(segment));
      return left.isEmpty();
    });
  }

  /** The counted facets, by name, in the order of the tuning. */
  answer(): Record<string, FacetAnswer> {
    return Object.fromEntries(
      this.#active.filter(({ counted }) => counted).map(({ rule, facet }) => [rule.name, facet.answer()]),
    );
  }
}
