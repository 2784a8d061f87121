import { REPAIR_KINDS, type RepairKind } from '@yucca/contract';
import { isTrue, recordsSent } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { taskIdFrom, taskReply } from '@/http/task-reply';
import { Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';
import type { BegunTask } from '@/server/tasks/tasks';

/** Makes the collection what the records of its source say, one a line, as far as it is asked for, as a task. */
export const POST = route('admin', ({ request, url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const order = { what: whatFrom(url), asOf: asOfFrom(url), confirmed: isTrue(url, 'confirm') };
  const begin = (): Promise<BegunTask> =>
    yucca.feeds.repair(params.feed!, recordsSent(request), order, taskIdFrom(url));
  return taskReply(url, begin, ({ id }) => ({ what: order.what.join(', '), task: id }));
});

function whatFrom(url: URL): RepairKind[] {
  const what = (url.searchParams.get('what') ?? 'missing,different').split(',');
  const known = what.filter((one): one is RepairKind => (REPAIR_KINDS as readonly string[]).includes(one));
  if (known.length === what.length) return known;
  const detail = `must name some of ${REPAIR_KINDS.join(', ')}`;
  throw new Failure('invalid', `what ${detail}.`, [{ pointer: '/what', detail }]);
}

function asOfFrom(url: URL): number {
  const asOf = url.searchParams.get('asOf');
  if (asOf === null) return Date.now();
  const at = /^\d{4}-\d\d-\d\dT/.test(asOf) ? Date.parse(asOf) : Number.NaN;
  if (Number.isFinite(at)) return at;
  throw new Failure('invalid', 'asOf must be a moment.', [{ pointer: '/asOf', detail: 'must be a moment' }]);
}

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
