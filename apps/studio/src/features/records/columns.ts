import type { Card, RecordJson } from '@yucca/contract';
import { cellText } from '@/features/load/sample-table';

const COLUMNS = 6;

/** What stands at a dotted path: of lists on the way, every value. */
export function valueOf(record: RecordJson, path: string): unknown {
  if (Object.hasOwn(record, path)) return record[path];
  const read = (value: unknown, parts: string[]): unknown => {
    if (parts.length === 0 || value === null || typeof value !== 'object')
      return parts.length === 0 ? value : undefined;
    if (Array.isArray(value)) return value.map((item) => read(item, parts)).filter((item) => item !== undefined);
    const fields = value as RecordJson;
    return Object.hasOwn(fields, parts[0]!) ? read(fields[parts[0]!], parts.slice(1)) : undefined;
  };
  return read(record, path.split('.'));
}

/** The fields worth a column: the key, what the card shows, then the first short ones. */
export function columnsOf(records: readonly RecordJson[], key: string, card: Card): string[] {
  const sample = records.slice(0, 20);
  const fields = [...new Set(sample.flatMap((record) => Object.keys(record)))];
  const shown = [card.title, card.detail, card.number].filter(
    (field): field is string => field !== null && fields.includes(field),
  );
  const short = fields.filter((field) => {
    const longest = Math.max(0, ...sample.map((record) => cellText(record[field]).length));
    return longest > 0 && longest <= 40;
  });
  return [...new Set([key, ...shown, ...short])].slice(0, COLUMNS);
}
