import { LIMITS } from '@yucca/contract';
import { wholeNumber } from '@/http/input';
import { json } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

export const GET = route('search', async ({ url, params, asking, yucca }) => {
  const q = (url.searchParams.get('q') ?? '').slice(0, LIMITS.queryLength);
  const size = wholeNumber(url, 'size', 8, 1, 50);
  const { filter } = validate('SearchRequest', { filter: url.searchParams.get('filter') ?? '' });
  return json(await yucca.search.suggest(params.collection!, q, size, asking, filter));
});

export const OPTIONS = preflight;

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
