import type { FieldRule, RecordJson, RuleEffect } from '@yucca/contract';
import { applyRules } from './apply.ts';
import { isCoerced } from './coercions.ts';

const EXAMPLES = 8;

/** Counts what a rule would do to records, one after the other. */
export class EffectCounter {
  readonly #rule: FieldRule;
  readonly #effect: RuleEffect = { changes: 0, unreadable: 0, holding: 0, examples: [] };
  readonly #shown = { changed: 0, unreadable: 0 };

  constructor(rule: FieldRule) {
    this.#rule = rule;
  }

  add(id: string, record: RecordJson): void {
    let holds = false;
    let change: { before: unknown; after: unknown } | null = null;
    let unread: unknown = undefined;
    applyRules(record, [this.#rule], (before, after) => {
      holds = true;
      if (after !== before) change ??= { before, after };
      else if (!isCoerced(this.#rule, after)) unread ??= before;
    });
    const effect = this.#effect;
    if (holds) effect.holding++;
    if (change !== null) {
      effect.changes++;
      if (this.#shown.changed++ < EXAMPLES)
        effect.examples.push({ id, ...(change as { before: unknown; after: unknown }) });
    }
    if (unread !== undefined) {
      effect.unreadable++;
      if (this.#shown.unreadable++ < EXAMPLES) effect.examples.push({ id, before: unread, after: null });
    }
  }

  finish(): RuleEffect {
    return this.#effect;
  }
}
