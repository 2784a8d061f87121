import { completeTuning, type TuningDocument } from '@yucca/contract';
import { isUpToDate, planFor } from '@yucca/engine/plan';

/**
 * Whether the index can answer a draft as it is, which needs no question to the server: it can answer the live tuning
 * and the saved draft, so it can answer all that they have words, columns and labels for.
 */
export function isFree(document: TuningDocument, live: TuningDocument, saved: TuningDocument): boolean {
  const planWith = (draft: TuningDocument) => planFor([completeTuning(live), completeTuning(draft)]);
  return isUpToDate(planWith(saved), planWith(document));
}
