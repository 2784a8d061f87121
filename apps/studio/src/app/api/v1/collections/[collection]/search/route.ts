import type { SearchAnswer } from '@yucca/contract';
import { readAsked, searchFrom } from '@/http/input';
import { keptEtag } from '@/server/etag';
import { Reply } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { requireRightFor } from '@/server/keys/caller';
import { validate } from '@/server/validate';

function answered(
  { json: text, timing: { engineMs, totalMs } }: { json: Buffer; timing: SearchAnswer['timing'] },
  headers: Record<string, string> = {},
): Reply {
  return new Reply(text, {
    headers: {
      'Content-Type': 'application/json',
      'Server-Timing': `engine;dur=${engineMs}, total;dur=${totalMs}`,
      ...headers,
    },
  });
}

export const GET = route('search', async ({ request, params, caller, asking, yucca }) => {
  const query = validate('SearchRequest', searchFrom(request.query));
  requireRightFor(caller, query);
  const name = params.collection!;
  // The question is the address, for which the tag stands: what else the answer follows from is the collection's state.
  const etag = keptEtag(`${process.pid}/${yucca.startedAt}/${yucca.search.state(name)}${caller.filter ?? ''}`);
  const headers = { ETag: etag, 'Cache-Control': 'no-cache' };
  if (request.headers.get('if-none-match') === etag) return new Reply(null, { status: 304, headers });
  return answered(await yucca.search.searchJson(name, query, asking), headers);
});

export const POST = route('search', async ({ request, params, caller, asking, yucca }) => {
  const query = validate('SearchRequest', await readAsked(request));
  requireRightFor(caller, query);
  return answered(await yucca.search.searchJson(params.collection!, query, asking));
});

export const OPTIONS = preflight;

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
