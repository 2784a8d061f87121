import type { SearchRequest, SearchResult, Tuning } from '@yucca/contract';
import { memoByObject } from '../memo/by-object.ts';
import type { Generation } from '../segment/generation.ts';
import { DocSet } from '../sets/doc-set.ts';
import { withArranged, type Arranged } from './arrange.ts';
import type { EngineAnswer, QueryContext } from './context.ts';
import { present } from './present/present.ts';
import { understoodWords } from './present/understood-words.ts';

/** Answers one search over one generation. Throws a SearchRequestError (see checkRequest) or a SearchCancelledError. */
export function search(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: QueryContext = {},
): EngineAnswer {
  return DocSet.scoped(() => searchScoped(generation, tuning, request, context));
}

function searchScoped(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: QueryContext,
): EngineAnswer {
  return withArranged(generation, tuning, request, context, (arranged) => {
    const { page = 1, size = 20 } = request;
    const { matching, shown, others } = arranged;
    const results = present(matching, tuning, request, shown.slice((page - 1) * size), others);
    return answerOf(generation, tuning, request, context, arranged, results);
  });
}

/** The answer about what was found, with the results of the page. */
export function answerOf(
  generation: Generation,
  tuning: Tuning,
  { page = 1, size = 20 }: SearchRequest,
  context: QueryContext,
  { matching, placed, selection, total, dropped, parsed }: Arranged,
  results: SearchResult[],
): EngineAnswer {
  return {
    query: placed.q,
    total,
    page,
    pages: size === 0 ? 0 : Math.ceil(total / size),
    size,
    results,
    facets: selection.answer(),
    understood: {
      words: understoodWords(matching, context.forcedFilter !== undefined, total === 0),
      dropped,
      ...(parsed.isWordless ? { wordless: true } : {}),
      placements: placed.names,
      redirect: placed.redirect,
      notice: placed.notice,
      ...(tuning.search.length > 0 ? {} : leftOut(generation)),
    },
    generation: generation.number,
  };
}

/** Text fields that a tuning which names none does not search, because there are too many. */
const leftOut = memoByObject(({ segments }: Generation): { unsearched?: string[] } => {
  const paths = new Set(segments.flatMap(({ segment }) => segment.meta.unsearched ?? []));
  return paths.size === 0 ? {} : { unsearched: [...paths] };
});

/** How many results a search has. Throws like search. */
export function countResults(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  context: QueryContext = {},
): number {
  return DocSet.scoped(() => withArranged(generation, tuning, request, context, ({ total }) => total));
}
