import { LIMITS } from '@yucca/contract';
import { bodyOf, isTrue, mediaType, oneOf, wholeNumber } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';

export const GET = route('read', ({ url, params, yucca }) => {
  const page = wholeNumber(url, 'page', 1, 1, 1_000_000_000);
  const size = wholeNumber(url, 'size', 20, 0, LIMITS.pageSize);
  const fields = url.searchParams.get('fields')?.split(',');
  return Response.json(yucca.records.list(params.collection!, page, size, fields));
});

const TASK_ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

export const POST = route('write', async ({ request, url, params, yucca }) => {
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
  const { task, searchable } = await yucca.records.load(params.collection!, {
    taskId,
    mediaType: mediaType(request),
    gzip: encoding === 'gzip',
    mode: oneOf(url, 'mode', ['replace', 'merge', 'insert'], 'replace'),
    assignKeys: isTrue(url, 'assignKeys'),
    bytes: Number.isFinite(length) ? length : null,
    body: bodyOf(request),
  });
  if (isTrue(url, 'wait')) return Response.json({ task: await searchable });
  return Response.json({ task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } });
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
