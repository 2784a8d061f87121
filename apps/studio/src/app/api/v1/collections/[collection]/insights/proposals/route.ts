import { LIMITS } from '@yucca/contract';
import { rangeFrom } from '@/http/insight-range';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';

/** How a query that fails may be mended, each with what it would do. */
export const GET = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const query = url.searchParams.get('query') ?? '';
  if (query.trim() === '' || query.length > LIMITS.queryLength) {
    const detail = `must be a query of 1 to ${LIMITS.queryLength} characters`;
    throw new Failure('invalid', `query ${detail}.`, [{ pointer: '/query', detail }]);
  }
  return json(await yucca.insights.proposals(params.collection!, query, rangeFrom(url)));
});

export const { PUT, PATCH, POST, DELETE } = refuseOthers('GET');
