import { REPAIR_KINDS, type RepairKind } from '@yucca/contract';
import { isTrue, recordsSent } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';

/** Makes the collection what the records of its source say, one a line, as far as it is asked for. */
export const POST = route('admin', async ({ request, url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const order = { what: whatFrom(url), asOf: asOfFrom(url), confirmed: isTrue(url, 'confirm') };
  const told = await yucca.feeds.repair(params.feed!, recordsSent(request), order);
  return json(told).noting({ written: told.written, deleted: told.deleted });
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
