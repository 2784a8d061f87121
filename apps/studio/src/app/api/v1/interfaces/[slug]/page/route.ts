import { json } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { reaches, requireCollection } from '@/server/keys/caller';

/** What a page elsewhere needs to know beforehand. Collections the key does not reach are left out of it. */
export const GET = route('search', async ({ url, params, caller, asking, yucca }) => {
  const preview = url.searchParams.get('preview');
  if (preview !== null && !yucca.interfaces.opensDraft(params.slug!, preview))
    throw new Failure('forbidden', 'This preview has expired, or is not for this page.');
  const language = url.searchParams.get('language');
  const page = yucca.interfaces.page(params.slug!, preview === null ? 'live' : 'draft', { language });
  requireCollection(caller, page.collection);
  const autocomplete = page.autocomplete.filter(({ collection }) => !collection || reaches(caller, collection));
  // Not the collection's own count: records outside the key's filter do not exist for it.
  const { total } = await yucca.search.search(page.collection, { size: 0, record: false }, asking);
  return json({ ...page, autocomplete, all: total });
});

export const OPTIONS = preflight;

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
