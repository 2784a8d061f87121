import type { SearchRequest, Tuning } from '@yucca/contract';
import type { Generation } from '../segment/generation.ts';
import { DocSet } from '../sets/doc-set.ts';
import { withArranged } from './arrange.ts';
import type { EngineAnswer, SearchContext } from './context.ts';
import { present } from './present/present.ts';
import { understoodWords } from './present/understood-words.ts';

/** Answers one search over one generation. Throws a SearchRequestError (see checkRequest) or a SearchCancelledError. */
export function search(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext = {},
): EngineAnswer {
  return DocSet.scoped(() => searchScoped(generation, tuning, request, context));
}

function searchScoped(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext,
): EngineAnswer {
  return withArranged(generation, tuning, request, context, (arranged) => {
    const { page = 1, size = 20 } = request;
    const { matching, placed, selection, shown, total, others, dropped } = arranged;
    return {
      query: placed.q,
      total,
      page,
      pages: size === 0 ? 0 : Math.ceil(total / size),
      size,
      results: present(matching, tuning, request, shown.slice((page - 1) * size), others),
      facets: selection.answer(),
      understood: {
        words: understoodWords(matching, context.forcedFilter !== undefined, total === 0),
        dropped,
        placements: placed.names,
        redirect: placed.redirect,
        notice: placed.notice,
      },
      generation: generation.number,
    };
  });
}

/** How many results a search has. Throws like search. */
export function countResults(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: SearchContext = {},
): number {
  return DocSet.scoped(() => withArranged(generation, tuning, request, context, ({ total }) => total));
}
