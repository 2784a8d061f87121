import { LIMITS } from '@yucca/contract';
import { searchFrom, wholeNumber } from '@/http/input';
import { json } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { requireRightFor } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** `?q=` looks inside the facet's values; `query`, `select` and `filter` say within which results. */
export const GET = route('search', async ({ url, params, caller, asking, yucca }) => {
  const text = (url.searchParams.get('q') ?? '').slice(0, LIMITS.queryLength);
  const size = wholeNumber(url, 'size', 20, 1, LIMITS.valuesPerFacet);
  const within = new URLSearchParams(url.searchParams);
  for (const name of ['q', 'size']) within.delete(name);
  const query = within.get('query');
  within.delete('query');
  if (query !== null) within.set('q', query);
  const search = validate('SearchRequest', searchFrom(within));
  requireRightFor(caller, search);
  const { collection, field } = params;
  return json(await yucca.search.facetValues(collection!, search, field!, text, size, asking));
});

export const OPTIONS = preflight;

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
