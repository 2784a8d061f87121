import type { RangeChoice as ChosenRange, SearchRequest } from '@yucca/contract';

/** A chosen range; both ends are inclusive and either may be missing. Dates are ISO 8601 texts. */
export type RangeChoice = Readonly<ChosenRange>;

/** What is chosen in one facet: values, or a range. */
export type Choice = readonly string[] | RangeChoice;

/** Choices by facet name, values in the order they were chosen. Facets with nothing chosen are absent. */
export type Choices = Readonly<Record<string, Choice>>;

/** A point on the earth to measure distances from. */
export interface Near {
  readonly lat: number;
  readonly lng: number;
  /** Only what lies within this many metres of it; whole metres in an address. */
  readonly withinM?: number;
}

/** What a visitor has asked for: the part of a search page's state that belongs into its address. */
export interface Query {
  /** As typed. */
  q: string;
  select: Choices;
  /** The name of a sort; null = by relevance. */
  sort: string | null;
  /** Where the visitor is, or wants to be. */
  near: Near | null;
  /** From 1. */
  page: number;
}

/** Nothing is asked for: everything, by relevance, from the first page. */
export const EMPTY_QUERY: Query = { q: '', select: {}, sort: null, near: null, page: 1 };

/** Whether nothing has been asked for yet: the page as one comes to it. */
export const isStart = ({ q, select, sort, near, page }: Query): boolean =>
  q.trim() === '' && Object.keys(select).length === 0 && sort === null && near === null && page === 1;

/** Whether two queries ask for the same. Values of a choice may stand in any order. */
export function sameQuery(a: Query, b: Query): boolean {
  return a === b || canonical(a) === canonical(b);
}

const canonical = ({ q, select, sort, near, page }: Query): string => {
  const choices = Object.keys(select).map((name) => {
    const choice = select[name]!;
    return [name, ...(isRange(choice) ? [0, choice.min, choice.max] : [...choice].sort())];
  });
  return JSON.stringify([q, sort, near, page, choices.sort()]);
};

/** Whether a choice is a range. */
export function isRange(choice: Choice | undefined): choice is RangeChoice {
  return choice !== undefined && !Array.isArray(choice);
}

/** The values chosen in a facet; none when a range is. */
export function chosenValues({ select }: Pick<Query, 'select'>, facet: string): readonly string[] {
  const choice = Object.hasOwn(select, facet) ? select[facet] : undefined;
  return choice === undefined || isRange(choice) ? [] : choice;
}

/** Another text; the page starts over. */
export function withText(query: Query, q: string): Query {
  return q === query.q ? query : { ...query, q, page: 1 };
}

/** Chooses a facet value, or takes the choice back; the page starts over. */
export function withToggled(query: Query, facet: string, value: string): Query {
  return withChoices(query, toggled(query.select, facet, value));
}

/** Chooses a range, or with null takes it back; the page starts over. */
export function withRange(query: Query, facet: string, range: RangeChoice | null): Query {
  return withChoices(query, ranged(query.select, facet, range));
}

/** Other choices; the page starts over. */
export function withChoices(query: Query, select: Choices): Query {
  return { ...query, select, page: 1 };
}

/** Choices with one value more, or less. */
export function toggled(select: Choices, facet: string, value: string): Choices {
  const chosen = chosenValues({ select }, facet);
  const next = chosen.includes(value) ? chosen.filter((other) => other !== value) : [...chosen, value];
  return choosing(select, facet, next.length > 0 ? next : null);
}

/** Choices with another range, or with null without it. */
export function ranged(select: Choices, facet: string, range: RangeChoice | null): Choices {
  const isEmpty = range === null || (range.min === undefined && range.max === undefined);
  return choosing(select, facet, isEmpty ? null : range);
}

function choosing(select: Choices, facet: string, choice: Choice | null): Choices {
  const rest = Object.entries(select).filter(([name]) => name !== facet);
  return Object.fromEntries(choice === null ? rest : [...rest, [facet, choice]]);
}

/** Another order; the page starts over. */
export function withSort(query: Query, sort: string | null): Query {
  return { ...query, sort, page: 1 };
}

/** The order by distance, which every collection with positions has. */
export const BY_DISTANCE = 'distance';

/** Another place to measure from; null = none. The page starts over. */
export function withNear(query: Query, near: Near | null): Query {
  const sort = near === null && query.sort === BY_DISTANCE ? null : query.sort;
  return { ...query, near, sort, page: 1 };
}

/** Another page, from 1; all else stays. */
export function withPage(query: Query, page: number): Query {
  return { ...query, page };
}

/** All choices taken back; the text and the order stay. */
export function withoutChoices(query: Query): Query {
  return withChoices(query, {});
}

/** What is asked for with every query, whatever the visitor does: facets, size, fields. */
export type StandingRequest = Omit<SearchRequest, 'q' | 'select' | 'sort' | 'near' | 'page'>;

/** The order to ask for: with a place and no words, whatever is nearest comes first. */
function sortFor({ q, sort, near }: Query): string | null {
  if (near === null) return sort === BY_DISTANCE ? null : sort;
  return sort ?? (q.trim() === '' ? BY_DISTANCE : null);
}

/** The request that answers a query. */
export function requestFor(query: Query, more: StandingRequest = {}): SearchRequest {
  const select = Object.fromEntries(
    Object.entries(query.select).map(([name, choice]) => [name, isRange(choice) ? { ...choice } : [...choice]]),
  );
  const sort = sortFor(query);
  return {
    ...more,
    q: query.q,
    page: query.page,
    ...(sort !== null && { sort }),
    ...(query.near && { near: query.near }),
    ...(Object.keys(select).length > 0 && { select }),
  };
}
