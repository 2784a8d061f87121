import type { InspectionAnswer, RecordJson } from '@yucca/contract';
import { hasDottedNames, type Inspection } from './inspect-file';

/** Values of a field that are shown, and how much of each. */
const SAMPLES = { most: 3, letters: 120 };

/** An inspection as the API tells it. */
export function asAnswer(inspection: Extract<Inspection, { ok: true }>): InspectionAnswer {
  const { format, mediaType, charset, places, at, header, key, fields, sample, records, rules, rows, rowsExact } =
    inspection;
  const nest = hasDottedNames(inspection);
  const query = new URLSearchParams({
    ...(key.field === null && { assignKeys: 'true' }),
    ...(nest && { nest: 'true' }),
    ...(at !== null && { at }),
    ...(header !== null && { header: String(header) }),
  });
  return {
    format,
    charset,
    at: places.map(({ pointer, records: found }) => ({ pointer, records: found })),
    key: { ...key, unique: key.field !== null && isUnique(records, key.field) },
    // Those there are, and those that a rule would make.
    fields: [...new Set([...fields, ...rules.map(({ rule }) => rule.field)])].map((path) => {
      const values = sample.flatMap((record) => (record[path] === undefined ? [] : [record[path]]));
      return {
        path,
        types: typesOf(values),
        samples: values.slice(0, SAMPLES.most).map((value) => textOf(value).slice(0, SAMPLES.letters)),
        proposals: rules
          .filter(({ rule }) => rule.field === path)
          .map(({ rule, reason, isDoubtful }) => ({ rule, reason, ...(isDoubtful && { doubtful: true }) })),
      };
    }),
    rows,
    rowsExact,
    load: { type: `${mediaType}; charset=${charset}`, query: query.toString() },
  };
}

const textOf = (value: unknown): string => (typeof value === 'string' ? value : JSON.stringify(value));

function isUnique(records: readonly RecordJson[], field: string): boolean {
  const seen = new Set(records.map((record) => JSON.stringify(record[field])));
  return seen.size === records.length;
}

function typesOf(values: readonly unknown[]): string[] {
  const counts = new Map<string, number>();
  for (const value of values) {
    const type = value === null ? 'null' : Array.isArray(value) ? 'array' : typeof value;
    counts.set(type, (counts.get(type) ?? 0) + 1);
  }
  return [...counts].sort((a, b) => b[1] - a[1]).map(([type]) => type);
}
