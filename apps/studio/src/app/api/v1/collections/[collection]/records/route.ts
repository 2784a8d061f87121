import { LIMITS } from '@yucca/contract';
import { bodyOf, isTrue, mediaType, oneOf, wholeNumber } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { requireRight } from '@/server/keys/caller';
import { checkFilter } from '@/server/keys/keys';

export const GET = route('read', async ({ url, params, asking, yucca }) => {
  const page = wholeNumber(url, 'page', 1, 1, 1_000_000_000);
  const size = wholeNumber(url, 'size', 20, 0, LIMITS.pageSize);
  const fields = url.searchParams.get('fields')?.split(',') ?? ['*'];
  const filter = bothOf(asking.forcedFilter, url.searchParams.get('filter'));
  const name = params.collection!;
  const format = oneOf(url, 'format', ['json', 'ndjson', 'csv'], 'json');
  if (format === 'json') return Response.json(await yucca.records.list(name, page, size, { fields, filter }));
  const pieces = yucca.records.export(name, format, { fields, filter });
  // The first piece is asked for before anything is answered: what is wrong with the filter shows here.
  const first = await pieces.next();
  return new Response(streamOf(first, pieces), {
    headers: {
      'Content-Type': format === 'csv' ? 'text/csv; charset=utf-8; header=present' : 'application/x-ndjson',
      'Content-Disposition': `attachment; filename="${name}.${format === 'csv' ? 'csv' : 'jsonl'}"`,
    },
  });
});

function bothOf(forced: string | undefined, asked: string | null): string | null {
  if (asked !== null && asked.length > LIMITS.filterLength)
    throw new Failure('invalid', 'filter is too long.', [{ pointer: '/filter', detail: 'is too long' }]);
  if (forced === undefined || !asked) return forced ?? (asked || null);
  // Read alone first, so that no parenthesis of it reaches out of its own.
  checkFilter(asked);
  return `(${forced}) AND (${asked})`;
}

function streamOf(first: IteratorResult<string>, rest: AsyncGenerator<string>): ReadableStream<Uint8Array> {
  const encoder = new TextEncoder();
  let next: IteratorResult<string> | null = first;
  return new ReadableStream({
    async pull(controller) {
      const piece = next ?? (await rest.next());
      next = null;
      if (piece.done) controller.close();
      else controller.enqueue(encoder.encode(piece.value));
    },
    cancel: () => void rest.return(undefined),
  });
}

const TASK_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

export const POST = route('write', async ({ request, url, params, caller, yucca }) => {
  const taskId = url.searchParams.get('task') ?? undefined;
  if (taskId !== undefined && !TASK_ID.test(taskId)) {
    throw new Failure('invalid', 'task must be a UUID in lower case.', [
      { pointer: '/task', detail: 'must be a UUID' },
    ]);
  }
  const encoding = request.headers.get('content-encoding') ?? 'identity';
  if (encoding !== 'gzip' && encoding !== 'identity')
    throw new Failure('unsupported-type', `The body may be packed with gzip, not with ${encoding}.`);
  const length = Number(request.headers.get('content-length') ?? Number.NaN);
  const file = url.searchParams.get('file');
  if (file !== null) requireRight(caller, 'admin');
  const sent = { mediaType: mediaType(request), gzip: encoding === 'gzip', body: bodyOf(request) };
  const { task, searchable } = await yucca.records.load(params.collection!, {
    taskId,
    mode: oneOf(url, 'mode', ['replace', 'merge', 'insert'], 'replace'),
    assignKeys: isTrue(url, 'assignKeys'),
    nest: isTrue(url, 'nest'),
    bytes: Number.isFinite(length) ? length : null,
    ...(file === null ? sent : await yucca.loadFiles.open(file)),
  });
  if (isTrue(url, 'wait')) return Response.json({ task: await searchable });
  return Response.json({ task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
