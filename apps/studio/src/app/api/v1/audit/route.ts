import type { AuditEntry } from '@yucca/contract';
import { LIMITS } from '@yucca/contract';
import { stringify } from 'csv-stringify/sync';
import { Readable } from 'node:stream';
import { isTrue, oneOf, wholeNumber } from '@/http/input';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { asCell } from '@/server/scan/export';

const COLUMNS = ['at', 'actor', 'keyId', 'remote', 'method', 'path', 'collection', 'detail'] as const;

/** Who changed what, the newest first; all of it as JSON Lines or CSV. */
export const GET = route('admin', ({ request, url, caller, yucca }) => {
  requireNoLimits(caller);
  const page = wholeNumber(url, 'page', 1, 1, 1_000_000);
  const size = wholeNumber(url, 'size', 50, 0, LIMITS.pageSize);
  const format = oneOf(url, 'format', ['json', 'ndjson', 'csv'], 'json');
  const collection = url.searchParams.get('collection');
  if (format === 'json') return json(yucca.audit.list({ page, size, collection }));
  const spreadsheet = isTrue(url, 'spreadsheet');
  const headers = {
    'Content-Type': format === 'csv' ? 'text/csv; charset=utf-8; header=present' : 'application/x-ndjson',
    'Content-Disposition': `attachment; filename="audit.${format === 'csv' ? 'csv' : 'jsonl'}"`,
  };
  if (request.method === 'HEAD') return new Reply(null, { headers });
  const pieces = format === 'csv' ? asCsv(yucca.audit.all(), spreadsheet) : asLines(yucca.audit.all());
  return new Reply(Readable.from(pieces, { objectMode: false }), { headers });
});

function* asLines(pieces: Iterable<AuditEntry[]>): Generator<string> {
  for (const entries of pieces) yield entries.map((entry) => `${JSON.stringify(entry)}\n`).join('');
}

function* asCsv(pieces: Iterable<AuditEntry[]>, spreadsheet: boolean): Generator<string> {
  yield stringify([[...COLUMNS]], { record_delimiter: 'windows' });
  const cell = (value: unknown): string =>
    asCell(typeof value === 'object' ? (value === null ? '' : JSON.stringify(value)) : String(value), spreadsheet);
  for (const entries of pieces)
    yield stringify(
      entries.map((entry) => COLUMNS.map((name) => cell(entry[name]))),
      { record_delimiter: 'windows' },
    );
}

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
