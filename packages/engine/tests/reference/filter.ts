import type { RecordJson } from '@yucca/contract';
import { valuesAt } from './match.ts';

/** A condition as the properties make it: printed as text for the engine, decided here record by record. */
export type ReferenceCondition =
  | { op: 'and' | 'or'; parts: ReferenceCondition[] }
  | { op: 'not'; part: ReferenceCondition }
  | { op: 'compare'; field: string; sign: '=' | '<>' | '<' | '<=' | '>' | '>='; value: string | number | boolean }
  | { op: 'between'; field: string; low: number; high: number }
  | { op: 'in'; field: string; values: (string | number)[] }
  | { op: 'like'; field: string; pattern: string }
  | { op: 'null'; field: string };

const literal = (value: string | number | boolean): string =>
  typeof value === 'string' ? `'${value.replaceAll("'", "''")}'` : String(value).toUpperCase();

export function print(condition: ReferenceCondition): string {
  switch (condition.op) {
    case 'and':
    case 'or':
      return `(${condition.parts.map(print).join(` ${condition.op} `)})`;
    case 'not':
      return `NOT ${print(condition.part)}`;
    case 'compare':
      return `${condition.field} ${condition.sign} ${literal(condition.value)}`;
    case 'between':
      return `${condition.field} BETWEEN ${condition.low} AND ${condition.high}`;
    case 'in':
      return `"${condition.field}" in (${condition.values.map(literal).join(', ')})`;
    case 'like':
      return `${condition.field} LIKE ${literal(condition.pattern)}`;
    case 'null':
      return `${condition.field} IS NULL`;
  }
}

/** True, false, or null for unknown. */
export function decide(record: RecordJson, condition: ReferenceCondition): boolean | null {
  switch (condition.op) {
    case 'not': {
      const inner = decide(record, condition.part);
      return inner === null ? null : !inner;
    }
    case 'and': {
      const parts = condition.parts.map((part) => decide(record, part));
      return parts.includes(false) ? false : parts.includes(null) ? null : true;
    }
    case 'or': {
      const parts = condition.parts.map((part) => decide(record, part));
      return parts.includes(true) ? true : parts.includes(null) ? null : false;
    }
  }
  const values = valuesAt(record, condition.field.split('.')).map(({ value }) => value);
  if (condition.op === 'null') return values.length === 0;
  if (values.length === 0) return null;
  return values.some((value) => holds(value, condition));
}

function holds(value: unknown, condition: Exclude<ReferenceCondition, { op: 'and' | 'or' | 'not' | 'null' }>): boolean {
  if (condition.op === 'between') return typeof value === 'number' && value >= condition.low && value <= condition.high;
  if (condition.op === 'in') return condition.values.some((one) => one === value);
  if (condition.op === 'like') {
    const pattern = condition.pattern
      .replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
      .replaceAll('%', '[^]*')
      .replaceAll('_', '[^]');
    return typeof value === 'string' && new RegExp(`^${pattern}$`, 'u').test(value);
  }
  const { sign, value: wanted } = condition;
  if (typeof value !== typeof wanted) return sign === '<>';
  const [a, b] = [value as number, wanted as number];
  return { '=': a === b, '<>': a !== b, '<': a < b, '<=': a <= b, '>': a > b, '>=': a >= b }[sign];
}
