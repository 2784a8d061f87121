import type { RecordJson, SearchRequest, SearchResult, Snippet, Tuning } from '@yucca/contract';
import { joinHits, Marker, type RecordHits } from './marker.ts';
import { makeSnippet } from './snippet.ts';
import { leavesAt, valueAtPointer } from '@yucca/contract';
import { shownPart } from '../../record/show.ts';
import type { Matching } from '../match/match-query.ts';
import { distanceReader } from '../rank/sort-keys.ts';

/** Turns documents into results: the part of the record that is shown, with marks and snippets. */
export class Presenter {
  readonly #tuning: Tuning;
  readonly #request: SearchRequest;
  readonly #matching: Matching;
  readonly #markers = new Map<number, Marker>();

  constructor(tuning: Tuning, request: SearchRequest, matching: Matching) {
    this.#tuning = tuning;
    this.#request = request;
    this.#matching = matching;
  }

  #marker(index: number): Marker {
    let marker = this.#markers.get(index);
    if (marker === undefined) {
      this.#markers.set(index, (marker = new Marker(this.#matching.segments[index]!)));
    }
    return marker;
  }

  present(index: number, doc: number): SearchResult {
    const { segment } = this.#matching.segments[index]!;
    const { show, hide, geo } = this.#tuning;
    const whole = segment.record(doc);
    const record = shownPart(whole, this.#request.fields ?? show, hide);
    const found: RecordHits =
      this.#matching.words.length === 0
        ? new Map()
        : this.#marker(index).find(doc, whole, (field, pointer) => {
            return this.#isRead(field) && (record === whole || hasPointer(record, pointer));
          });
    const { near } = this.#request;
    const distance = near ? distanceReader(segment, geo, near)(doc) : Number.NaN;
    return {
      id: segment.key(doc),
      record,
      marks: this.#marks(found),
      snippets: this.#snippets(record, found),
      ...(Number.isNaN(distance) ? {} : { distanceM: Math.round(distance * 10) / 10 }),
    };
  }

  #isMarked(field: string): boolean {
    const { mark } = this.#tuning;
    return mark.includes('*') || mark.includes(field);
  }

  /** Whether it matters where in a field something matched. */
  #isRead(field: string): boolean {
    return this.#isMarked(field) || this.#tuning.snippets.some((snippet) => snippet.field === field);
  }

  #marks(found: RecordHits): SearchResult['marks'] {
    const marked = [...found].filter(([, { field }]) => this.#isMarked(field));
    return Object.fromEntries(marked.map(([pointer, { hits }]) => [pointer, joinHits(hits)]));
  }

  #snippets(record: RecordJson, found: RecordHits): SearchResult['snippets'] {
    const snippets: [string, Snippet[]][] = [];
    for (const { field, words } of this.#tuning.snippets) {
      leavesAt(record, field, (value, pointer) => {
        if (typeof value !== 'string') return;
        snippets.push([pointer, [makeSnippet(value, found.get(pointer)?.hits ?? [], words)]]);
      });
    }
    return Object.fromEntries(snippets);
  }
}

/** What is hidden shows nothing, not even where it matched. */
function hasPointer(record: RecordJson, pointer: string): boolean {
  const value = valueAtPointer(record, pointer);
  return value !== undefined && value !== null && typeof value !== 'object';
}
