import type { Card, RecordJson } from '@yucca/contract';
import { cellText } from '@/features/load/sample-table';

const COLUMNS = 6;

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
