import { INSIGHT_INTERVALS } from '@yucca/contract';
import { oneOf } from '@/http/input';
import { rangeFrom, tagFrom } from '@/http/insight-range';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';

/** What visitors did, in sums. */
export const GET = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const interval = oneOf(url, 'interval', INSIGHT_INTERVALS, 'day');
  return json(await yucca.insights.read(params.collection!, rangeFrom(url), tagFrom(url), interval));
});

const ERASED = ['session', 'viewer', 'query'] as const;

/** Erases what is kept of a visit, a viewer or a query. */
export const DELETE = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const given = ERASED.filter((name) => (url.searchParams.get(name) ?? '') !== '');
  if (given.length !== 1)
    throw new Failure('invalid', 'Say what to erase: one of session, viewer and query.', [
      { pointer: `/${given[1] ?? 'query'}`, detail: 'one of session, viewer and query' },
    ]);
  const [name] = given;
  const erased = await yucca.insights.erase(params.collection!, { [name!]: url.searchParams.get(name!)! });
  // The trail says that something was erased, not whose it was.
  return json({ erased }).noting({ erased, of: name! });
});

export const { PUT, PATCH, POST } = refuseOthers('GET', 'DELETE');
