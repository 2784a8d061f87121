import type { SearchAnswer } from '@yucca/contract';
import { readAsked, searchFromUrl } from '@/http/input';
import { etagOf } from '@/server/etag';
import { Reply } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { requireRightFor } from '@/server/keys/caller';
import { validate } from '@/server/validate';

function answered(
  { json: text, timing: { engineMs, totalMs } }: { json: string; timing: SearchAnswer['timing'] },
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

export const GET = route('search', async ({ request, url, params, caller, asking, yucca }) => {
  const query = validate('SearchRequest', searchFromUrl(url));
  requireRightFor(caller, query);
  const name = params.collection!;
  // The answer follows from the question and the collection's state, so their hash tells them apart.
  const state = `${process.pid}/${yucca.startedAt}/${yucca.search.state(name)}`;
  const etag = etagOf(`${state}${url.search}${caller.filter ?? ''}`);
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
