import type { FacetRule, RecordJson, SearchRequest } from '@yucca/contract';
import { valuesAt } from './match.ts';

export interface ReferenceFacet {
  counts: Record<string, number>;
  missing: number;
  notNumbers: number;
  numbers: number[][];
}

const textsIn = (record: RecordJson, field: string): string[] =>
  [...new Set(valuesAt(record, field.split('.')).map(({ value }) => String(value)))].filter(Boolean);

const nodesOf = (path: string, separator: string): string[] => {
  const levels = path.split(separator);
  return levels.map((_, i) => levels.slice(0, i + 1).join(separator));
};

const day = (text: string): string | null => (/^\d{4}-\d{2}-\d{2}/.test(text) ? text.slice(0, 10) : null);

/** What a record is counted under in a facet. */
function groupsOf(record: RecordJson, { field, kind, separator, by }: FacetRule): string[] {
  const texts = textsIn(record, field);
  if (kind === 'tree') return [...new Set(texts.flatMap((text) => nodesOf(text, separator)))];
  if (kind === 'dates') {
    const length = { year: 4, month: 7, day: 10 }[by];
    return [...new Set(texts.flatMap((text) => (day(text) === null ? [] : [day(text)!.slice(0, length)])))];
  }
  return texts;
}

const numbersIn = (record: RecordJson, field: string): number[] =>
  valuesAt(record, field.split('.')).flatMap(({ value }) => (typeof value === 'number' ? [value] : []));

export function passes(record: RecordJson, facet: FacetRule, request: SearchRequest): boolean {
  const choice = request.select?.[facet.name];
  if (choice === undefined || (Array.isArray(choice) && choice.length === 0)) return true;
  if (!Array.isArray(choice)) {
    const [low, high] = [Number(choice.min ?? -Infinity), Number(choice.max ?? Infinity)];
    return numbersIn(record, facet.field).some((number) => number >= low && number <= high);
  }
  if (facet.kind === 'numbers') return numbersIn(record, facet.field).some((number) => choice.includes(String(number)));
  const groups = groupsOf(record, facet);
  const all = facet.kind === 'values' && facet.match === 'all';
  return all ? choice.every((value) => groups.includes(value)) : choice.some((value) => groups.includes(value));
}

/** Counts a facet over the records that pass every other choice, and its own when it must hold all chosen values. */
export function countFacet(
  records: RecordJson[],
  facet: FacetRule,
  facets: FacetRule[],
  request: SearchRequest,
): ReferenceFacet {
  const narrowsItself = facet.kind === 'values' && facet.match === 'all';
  const others = facets.filter((other) => other !== facet || narrowsItself);
  const counted = records.filter((record) => others.every((other) => passes(record, other, request)));
  const answer: ReferenceFacet = { counts: {}, missing: 0, notNumbers: 0, numbers: [] };
  for (const record of counted) {
    const numbers = numbersIn(record, facet.field);
    const groups = groupsOf(record, facet);
    if (facet.kind === 'numbers') {
      if (numbers.length === 0) answer.missing++;
      if (numbers.length === 0 && valuesAt(record, facet.field.split('.')).length > 0) answer.notNumbers++;
      answer.numbers.push(numbers);
    } else if (groups.length === 0) answer.missing++;
    for (const group of groups) answer.counts[group] = (answer.counts[group] ?? 0) + 1;
  }
  return answer;
}
