import { LIMITS, type SearchAnswer, type SearchRequest, type Tuning, type UnderstoodWord } from '@yucca/contract';
import { FacetCounter, type ActiveFacet } from '../facets/values.ts';
import { Marker } from '../marks/marks.ts';
import { pick } from '../record/paths.ts';
import type { Segment } from '../segment/segment.ts';
import type { Tombstones } from '../segment/tombstones.ts';
import { wordAt } from '../segment/trie.ts';
import { countPostings, expandWord } from './expand.ts';
import { matchAll, matchWords, type FieldWeights, type Matches } from './matcher.ts';
import { parseQuery, type QueryWord } from './parse.ts';
import { telling } from './score.ts';
import { Top, type Candidate } from './top.ts';
import type { WordRun } from './typo-walk.ts';

/** One consistent state of a collection: what a query sees from its first page to its facets. */
export interface Generation {
  number: number;
  segments: { segment: Segment; dead: Tombstones }[];
}

/** What the engine answers; the server adds the query's id and the times. */
export type EngineAnswer = Omit<SearchAnswer, 'queryId' | 'timing'>;

/** A request that is well formed and asks for something that is not there. `pointer` says where. */
export class SearchRequestError extends Error {
  override name = 'SearchRequestError';
  readonly pointer: string;

  constructor(pointer: string, detail: string) {
    super(detail);
    this.pointer = pointer;
  }
}

/** Checks what a JSON Schema cannot: the result window and the names of facets. Throws a SearchRequestError. */
export function checkRequest(request: SearchRequest, tuning: Tuning): void {
  const { page = 1, size = 20 } = request;
  if (page * size > LIMITS.resultWindow) {
    throw new SearchRequestError(
      '/page',
      `page × size is ${page * size}; results can be paged up to ${LIMITS.resultWindow}. Narrow the query instead.`,
    );
  }
  const names = new Set(tuning.facets.map(({ name }) => name));
  const unknown = (name: string): string =>
    `There is no facet called "${name}". ${names.size > 0 ? `Facets: ${[...names].join(', ')}.` : 'This collection has none.'}`;
  request.facets?.forEach((name, i) => {
    if (name !== '*' && !names.has(name)) throw new SearchRequestError(`/facets/${i}`, unknown(name));
  });
  for (const name of Object.keys(request.select ?? {})) {
    if (!names.has(name)) throw new SearchRequestError(`/select/${name}`, unknown(name));
  }
}

/** Answers one search over one generation. Throws a SearchRequestError (see checkRequest). */
export function search(generation: Generation, tuning: Tuning, request: SearchRequest): EngineAnswer {
  checkRequest(request, tuning);
  const { q = '', page = 1, size = 20 } = request;
  const { words, dropped } = parseQuery(q, tuning.typos);
  const expanded = generation.segments.map(({ segment }) =>
    words.map((word) => expandWord(segment, word, tuning.typos.firstLetter)),
  );
  const tellings = words.map((_, index) => tellingOf(generation, expanded, index));
  const counter = new FacetCounter(activeFacets(tuning, request));
  const top = new Top(page * size);
  let total = 0;
  generation.segments.forEach(({ segment, dead }, s) => {
    const matches: Matches =
      words.length > 0
        ? matchWords(segment, dead, words, expanded[s]!, fieldWeights(segment, tuning), tellings)
        : matchAll(segment, dead);
    const kept = counter.countSegment(segment, matches.docs);
    total += kept.length;
    for (let k = 0; k < kept.length; k++) {
      const i = kept[k]!;
      const doc = matches.docs[i]!;
      top.offer(s, doc, matches.typos[i]!, matches.scores[i]!, segment.orders[doc]!);
    }
  });
  const shown = top.sorted().slice((page - 1) * size);
  return {
    query: q,
    total,
    page,
    pages: size === 0 ? 0 : Math.ceil(total / size),
    size,
    results: present(generation, tuning, request, words, shown),
    facets: counter.answer(),
    understood: {
      words: words.map((word, i) => understand(generation, expanded, word, i)),
      dropped,
      placements: [],
      redirect: null,
      notice: null,
    },
    generation: generation.number,
  };
}

/** A word is as telling as its most trusted reading is rare: its own postings if it stands in the data, else all of them. */
function tellingOf({ segments }: Generation, expanded: WordRun[][][], index: number): number {
  let records = 0;
  let asTyped = 0;
  let all = 0;
  segments.forEach(({ segment }, s) => {
    const runs = expanded[s]![index]!;
    records += segment.docs;
    asTyped += countPostings(
      segment,
      runs.filter(({ typos, whole }) => typos === 0 && whole),
    );
    all += countPostings(segment, runs);
  });
  return telling(records, asTyped > 0 ? asTyped : all);
}

function fieldWeights({ meta }: Segment, { search: fields, typos }: Tuning): FieldWeights {
  const heaviest = fields.reduce((most, { weight }) => Math.max(most, weight), 0);
  const byField = new Map(fields.map(({ field, weight }) => [field, weight / heaviest]));
  return {
    weights: Float64Array.from(meta.searchFields, (field) =>
      fields.length === 0 ? Number(meta.stringFields.includes(field)) : (byField.get(field) ?? 0),
    ),
    exact: Uint8Array.from(meta.searchFields, (field) => (typos.exactFields.includes(field) ? 1 : 0)),
  };
}

function activeFacets(tuning: Tuning, { facets = [], select = {} }: SearchRequest): ActiveFacet[] {
  return tuning.facets
    .map((rule) => ({
      rule,
      chosen: new Set(Object.hasOwn(select, rule.name) ? (select[rule.name] as string[]) : []),
      counted: facets.includes('*') || facets.includes(rule.name),
    }))
    .filter(({ chosen, counted }) => counted || chosen.size > 0);
}

/** Fetches and marks the records of a page. */
function present(
  { segments }: Generation,
  tuning: Tuning,
  request: SearchRequest,
  words: QueryWord[],
  shown: readonly Candidate[],
): EngineAnswer['results'] {
  const fields =
    tuning.search.length > 0
      ? tuning.search.map(({ field }) => field)
      : [...new Set(segments.flatMap(({ segment }) => segment.meta.stringFields))];
  const markFields = fields.map((field) => ({ field, exact: tuning.typos.exactFields.includes(field) }));
  const marker = new Marker(words, markFields, tuning.typos.firstLetter);
  return shown.map(({ segment: s, doc }) => {
    const { segment } = segments[s]!;
    const record = pick(segment.record(doc), request.fields ?? tuning.show);
    return { id: segment.key(doc), record, marks: marker.mark(record), snippets: {} };
  });
}

const READINGS_SHOWN = 5;

/** Which words of the data a typed word was taken for, the most common first. */
function understand({ segments }: Generation, expanded: WordRun[][][], word: QueryWord, index: number): UnderstoodWord {
  const least = Math.min(...expanded.flatMap((runs) => runs[index]!.map(({ typos }) => typos)));
  const postings = new Map<string, number>();
  segments.forEach(({ segment }, s) => {
    const best: [term: number, count: number][] = [];
    for (const { from, to, typos } of expanded[s]![index]!) {
      if (typos !== least) continue;
      for (let term = from; term < to; term++) {
        const count = segment.postStarts[term + 1]! - segment.postStarts[term]!;
        if (best.length === READINGS_SHOWN && count <= best[READINGS_SHOWN - 1]![1]) continue;
        if (best.some(([known]) => known === term)) continue;
        best.push([term, count]);
        best.sort((a, b) => b[1] - a[1]);
        best.length = Math.min(best.length, READINGS_SHOWN);
      }
    }
    for (const [term, count] of best) {
      const text = wordAt(segment.trie, term);
      postings.set(text, (postings.get(text) ?? 0) + count);
    }
  });
  const as = [...postings].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).slice(0, READINGS_SHOWN);
  return { text: word.typed, typo: least > 0 && Number.isFinite(least), as: as.map(([text]) => text) };
}
