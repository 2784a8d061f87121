import type { RecordJson, SearchRequest, SearchResult, Snippet, Tuning } from '@yucca/contract';
import { joinHits, Marker, type RecordHits } from '../marks/marker.ts';
import { makeSnippet } from '../marks/snippet.ts';
import { leavesAt } from '../record/paths.ts';
import { shownPart } from '../record/show.ts';
import type { Segment } from '../segment/segment.ts';
import type { Matching } from './matching.ts';
import { distanceReader } from './sort-keys.ts';

/** Turns documents into results: the part of the record that is shown, with marks and snippets. */
export class Presenter {
  readonly #tuning: Tuning;
  readonly #request: SearchRequest;
  readonly #marker: Marker;

  constructor(tuning: Tuning, request: SearchRequest, { words, alternatives, segments }: Matching) {
    this.#tuning = tuning;
    this.#request = request;
    const fields =
      tuning.search.length > 0
        ? tuning.search.map(({ field }) => field)
        : [...new Set(segments.flatMap(({ segment }) => segment.meta.stringFields))];
    this.#marker = new Marker(words, alternatives, fields, tuning);
  }

  present(segment: Segment, doc: number): SearchResult {
    const { show, hide, geo } = this.#tuning;
    const whole = segment.record(doc);
    const record = shownPart(whole, this.#request.fields ?? show, hide);
    const found = this.#marker.find(whole);
    const { near } = this.#request;
    const distance = near ? distanceReader(segment, geo, near)(doc) : Number.NaN;
    return {
      id: segment.key(doc),
      record,
      marks: this.#marks(record, found),
      snippets: this.#snippets(record, found),
      ...(Number.isNaN(distance) ? {} : { distanceM: Math.round(distance * 10) / 10 }),
    };
  }

  /** Marks in what is shown; a field that is hidden shows nothing, not even where it matched. */
  #marks(record: RecordJson, { strings }: RecordHits): SearchResult['marks'] {
    const { mark } = this.#tuning;
    const marked = [...strings].filter(
      ([pointer, { field }]) => (mark.includes('*') || mark.includes(field)) && hasPointer(record, pointer),
    );
    return Object.fromEntries(marked.map(([pointer, { hits }]) => [pointer, joinHits(hits)]));
  }

  #snippets(record: RecordJson, { strings }: RecordHits): SearchResult['snippets'] {
    const snippets: [string, Snippet[]][] = [];
    for (const { field, words } of this.#tuning.snippets) {
      leavesAt(record, field, (value, pointer) => {
        if (typeof value !== 'string') return;
        snippets.push([pointer, [makeSnippet(value, strings.get(pointer)?.hits ?? [], words)]]);
      });
    }
    return Object.fromEntries(snippets);
  }
}

function hasPointer(record: RecordJson, pointer: string): boolean {
  let value: unknown = record;
  for (const token of pointer.split('/').slice(1)) {
    const name = token.replaceAll('~1', '/').replaceAll('~0', '~');
    if (value === null || typeof value !== 'object' || !Object.hasOwn(value, name)) return false;
    value = (value as Record<string, unknown>)[name];
  }
  return value !== null && typeof value !== 'object';
}
