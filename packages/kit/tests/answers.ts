import type { InterfacePage, SearchAnswer, UnderstoodWord } from '@yucca/contract';

/** What a test says of an answer; `results` is how many records of its page there are. */
export interface AnswerFacts extends Partial<Omit<SearchAnswer, 'results' | 'understood'>> {
  results?: number | SearchAnswer['results'];
  words?: UnderstoodWord[];
  dropped?: string[];
  notice?: string;
  redirect?: string;
}

/** Plants `P-1`, `P-2` … as results. */
export function plants(count: number, from = 1): SearchAnswer['results'] {
  return Array.from({ length: count }, (_, i) => ({
    id: `P-${from + i}`,
    record: { name: `Plant ${from + i}` },
    marks: {},
    snippets: {},
  }));
}

/** An answer as the server gives it, with the facts a test is about. */
export function answerWith(facts: AnswerFacts = {}): SearchAnswer {
  const { results = 0, words = [], dropped = [], notice = null, redirect = null, ...more } = facts;
  const rows = typeof results === 'number' ? plants(results) : results;
  const { total = rows.length, size = 20 } = more;
  return {
    query: '',
    total,
    page: 1,
    pages: Math.ceil(total / size),
    size,
    results: rows,
    facets: {},
    understood: { words, dropped, placements: [], notice, redirect },
    queryId: 'q1',
    generation: 1,
    timing: { engineMs: 1, totalMs: 1 },
    ...more,
  };
}

/** A plain page over a collection of plants. */
export function pageWith(more: Partial<InterfacePage> = {}): InterfacePage {
  return {
    slug: 'nursery',
    title: 'Nursery',
    collection: 'plants',
    all: 100,
    layout: 'cards',
    card: { title: 'name', picture: null, text: null, number: null, detail: null },
    facets: [],
    sorts: [],
    pageSize: 20,
    paging: 'pages',
    currency: null,
    thing: 'Product',
    autocomplete: [],
    places: [],
    geo: null,
    at: '/s/nursery',
    ...more,
  };
}
