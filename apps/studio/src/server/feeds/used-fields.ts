import type { Card, Tuning } from '@yucca/contract';
import type { FieldUse } from './shape';

/** What searches and pages do with fields, in a few words each. */
export function usedFields(tuning: Tuning, card: Card): FieldUse[] {
  const uses = (use: string, paths: readonly (string | null | undefined)[]): FieldUse[] =>
    paths.flatMap((path) => (typeof path === 'string' && path !== '*' ? [{ path, use }] : []));
  return [
    ...uses('searched', tuning.search.map(({ field }) => field)), // prettier-ignore
    ...tuning.facets.flatMap(({ field, labelField, label }) => uses(`facet ${label}`, [field, labelField])),
    ...tuning.sorts.flatMap(({ by, label }) => uses(`sort ${label}`, by.map(({ field }) => field))), // prettier-ignore
    ...uses('signal', tuning.signals.map(({ field }) => field)), // prettier-ignore
    ...uses('grouped by', [tuning.group?.field]),
    ...uses('position', [tuning.geo]),
    ...uses('shown on cards', Object.values(card).flat().map((part) => (typeof part === 'string' ? part : null))), // prettier-ignore
  ];
}
