import { rangeFrom } from '@/http/insight-range';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Judgements that visitors' clicks make. */
export const GET = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  return json(await yucca.insights.judgements(params.collection!, rangeFrom(url)));
});

export const { PUT, PATCH, POST, DELETE } = refuseOthers('GET');
