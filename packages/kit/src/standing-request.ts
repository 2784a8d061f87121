import type { InterfacePage } from '@yucca/contract';
import type { StandingRequest } from './query.ts';

/** What a page asks for with every query. */
export function standingRequest({
  facets,
  pageSize,
  badges,
}: Pick<InterfacePage, 'facets' | 'pageSize' | 'badges'>): StandingRequest {
  return {
    facets: facets.map(({ name }) => name),
    size: pageSize,
    ...(badges?.length && { conditions: badges.map(({ where }) => where) }),
  };
}
