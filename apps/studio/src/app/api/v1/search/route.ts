import { LIMITS, type ProblemJson, type SearchAnswer, type SuggestAnswer } from '@yucca/contract';
import { readAskedSimply } from '@/http/input';
import { problemOf } from '@/http/problem';
import { json } from '@/http/reply';
import { preflight, refuseOthers, route } from '@/http/route';
import { requireCollection, requireRightFor } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/**
 * Several searches in one call, completions among them. Each is answered in its place; one that fails answers a problem
 * there.
 */
export const POST = route('search', async ({ request, caller, asking, yucca }) => {
  const { queries } = validate('MultiSearch', await readAskedSimply(request));
  const answers = await Promise.all(
    queries.map(async ({ collection, ...rest }): Promise<SearchAnswer | SuggestAnswer | ProblemJson> => {
      try {
        requireCollection(caller, collection);
        if ('suggest' in rest) {
          const { q, size = 8, filter } = validate('AskSuggestions', rest).suggest;
          return await yucca.search.suggest(collection, q.slice(0, LIMITS.queryLength), size, asking, filter);
        }
        const query = validate('SearchRequest', rest);
        requireRightFor(caller, query);
        return await yucca.search.search(collection, query, asking);
      } catch (error) {
        if (request.signal.aborted) throw error;
        return problemOf(error);
      }
    }),
  );
  return json({ answers });
});

export const OPTIONS = preflight;

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
