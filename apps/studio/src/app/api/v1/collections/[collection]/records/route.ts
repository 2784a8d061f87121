import { LIMITS } from '@yucca/contract';
import { charsetSaid, isTrue, mediaType, oneOf, packing, wholeNumber } from '@/http/input';
import { bodyOf } from '@/http/pieces';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { taskIdFrom } from '@/http/task-reply';
import { Failure } from '@/server/failure';
import { requireRight } from '@/server/keys/caller';
import { checkFilter } from '@/server/keys/keys';
import { FIND } from '@/server/records/parsers/json-document';

export const GET = route('read', async ({ request, url, params, asking, yucca }) => {
  const page = wholeNumber(url, 'page', 1, 1, 1_000_000_000);
  const size = wholeNumber(url, 'size', 20, 0, LIMITS.pageSize);
  const fields = url.searchParams.get('fields')?.split(',') ?? ['*'];
  const filter = bothOf(asking.forcedFilter, url.searchParams.get('filter'));
  const name = params.collection!;
  const format = oneOf(url, 'format', ['json', 'ndjson', 'csv'], 'json');
  const options = { fields, filter, forced: asking.forcedFilter !== undefined };
  if (format === 'json') return json(await yucca.records.list(name, page, size, options));
  const forSpreadsheets = isTrue(url, 'spreadsheet');
  const headers: Record<string, string> = {
    'Content-Type': format === 'csv' ? 'text/csv; charset=utf-8; header=present' : 'application/x-ndjson',
    'Content-Disposition': `attachment; filename="${name}.${format === 'csv' ? 'csv' : 'jsonl'}"`,
  };
  // RFC 9110 wants the headers of a HEAD, not the work behind them.
  if (request.method === 'HEAD') return new Reply(null, { headers });
  const pieces = yucca.records.export(name, format, { ...options, forSpreadsheets });
  return new Reply(await bodyOf(pieces), { headers });
});

function bothOf(forced: string | undefined, asked: string | null): string | null {
  if (asked !== null && asked.length > LIMITS.filterLength)
    throw new Failure('invalid', 'filter is too long.', [{ pointer: '/filter', detail: 'is too long' }]);
  if (forced === undefined || !asked) return forced ?? (asked || null);
  // Read alone first, so that no parenthesis of it reaches out of its own.
  checkFilter(asked);
  return `(${forced}) AND (${asked})`;
}

export const POST = route('write', async ({ request, url, params, caller, yucca }) => {
  const taskId = taskIdFrom(url);
  const gzip = packing(request) === 'gzip';
  const length = Number(request.headers.get('content-length') ?? Number.NaN);
  const file = url.searchParams.get('file');
  if (file !== null) requireRight(caller, 'admin');
  const sent = { mediaType: mediaType(request), charset: charsetSaid(request), gzip, body: request.body() };
  const { task, searchable } = await yucca.records.load(params.collection!, {
    taskId,
    mode: oneOf(url, 'mode', ['replace', 'merge', 'insert'], 'replace'),
    assignKeys: isTrue(url, 'assignKeys'),
    nest: isTrue(url, 'nest'),
    at: placeFrom(url),
    header: headerFrom(url),
    bytes: Number.isFinite(length) ? length : null,
    ...(file === null ? sent : await yucca.loadFiles.open(file)),
  });
  const noted = { task: task.id, done: task.done, failed: task.failed };
  if (isTrue(url, 'wait')) return json({ task: await searchable }).noting(noted);
  return json({ task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } }).noting(noted);
});

/** Where in a JSON document the records are: a JSON Pointer, or “auto”. */
function placeFrom(url: URL): string | null {
  const at = url.searchParams.get('at');
  if (at === null || at === FIND || at === '' || (at.startsWith('/') && at.length <= LIMITS.keyBytes)) return at;
  const detail = 'must be a JSON Pointer, such as /features, or auto';
  throw new Failure('invalid', `at ${detail}.`, [{ pointer: '/at', detail }]);
}

/** The line of a CSV that holds its header, from 1. */
function headerFrom(url: URL): number | null {
  const header = url.searchParams.get('header');
  if (header === null || /^[1-9]\d{0,3}$/.test(header)) return header === null ? null : Number(header);
  const detail = 'must be the number of a line, from 1 to 9999';
  throw new Failure('invalid', `header ${detail}.`, [{ pointer: '/header', detail }]);
}

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
