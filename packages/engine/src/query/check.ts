import { FACET_KINDS, LIMITS, pointerToken, type SearchRequest, type Tuning } from '@yucca/contract';
import { nearestName } from '../filter/nearest-name.ts';
import { SearchRequestError } from './context.ts';

/**
 * Checks what a JSON Schema cannot: the result window and the names of facets and sorts. Throws a SearchRequestError.
 */
export function checkRequest(request: SearchRequest, tuning: Tuning): void {
  const { page = 1, size = 20 } = request;
  if (page * size > LIMITS.resultWindow) {
    throw new SearchRequestError(
      '/page',
      `page × size is ${page * size}; results can be paged up to ${LIMITS.resultWindow}. Narrow the query instead.`,
    );
  }
  checkFacets(request, tuning);
  checkSort(request, tuning);
}

function checkFacets({ facets, select }: SearchRequest, tuning: Tuning): void {
  const names = tuning.facets.map(({ name }) => name);
  facets?.forEach((name, i) => {
    if (name !== '*' && !names.includes(name)) {
      throw new SearchRequestError(`/facets/${i}`, unknown('facet', name, names));
    }
  });
  const chosen = Object.values(select ?? {}).flatMap((choice) => (Array.isArray(choice) ? choice : []));
  const letters = chosen.reduce((sum, value) => sum + value.length, 0);
  if (letters > LIMITS.choicesLength) {
    throw new SearchRequestError(
      '/select',
      `The chosen values have ${letters} characters together; ${LIMITS.choicesLength} are the most.`,
    );
  }
  for (const [name, choice] of Object.entries(select ?? {})) {
    const pointer = `/select/${pointerToken(name)}`;
    const rule = tuning.facets.find((facet) => facet.name === name);
    if (rule === undefined) throw new SearchRequestError(pointer, unknown('facet', name, names));
    if (Array.isArray(choice)) continue;
    if (FACET_KINDS[rule.kind].named) {
      throw new SearchRequestError(pointer, `“${name}” has values to choose from, not a range.`);
    }
    if (rule.kind === 'numbers' && [choice.min, choice.max].some((end) => typeof end === 'string')) {
      throw new SearchRequestError(pointer, `“${name}” is a range of numbers.`);
    }
  }
}

function checkSort({ sort, near }: SearchRequest, tuning: Tuning): void {
  if (near !== undefined && tuning.geo === null) {
    throw new SearchRequestError('/near', 'This collection has no field with positions (geo in the tuning).');
  }
  if (sort === undefined || sort === 'relevance') return;
  if (sort === 'distance') {
    if (near === undefined) throw new SearchRequestError('/sort', 'Sorting by distance needs near.');
    return;
  }
  const names = tuning.sorts.map(({ name }) => name);
  if (!names.includes(sort)) throw new SearchRequestError('/sort', unknown('sort', sort, ['relevance', ...names]));
}

function unknown(what: string, name: string, names: readonly string[]): string {
  const near = nearestName(name, names);
  const hint = near !== null ? `Did you mean “${near}”?` : names.length > 0 ? `There are: ${names.join(', ')}.` : '';
  return `There is no ${what} called “${name}”. ${hint || 'This collection has none.'}`;
}
