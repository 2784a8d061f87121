import type { Range, RecordJson } from '@yucca/contract';
import type { FieldWeights } from '../match/field-weights.ts';
import type { Expansion } from '../match/expansions.ts';
import type { SegmentMatch } from '../match/match-query.ts';
import type { TermCodes } from '../match/term-codes.ts';
import { languageAt } from '../match/text-languages.ts';
import type { WordMatch } from '../match/word-match.ts';
import { eachLeaf } from '@yucca/contract';
import { ForwardCursor } from '../../segment/forward.ts';
import { isSearchedUnasked } from '../../segment/field-tree.ts';
import type { Segment } from '../../segment/segment.ts';
import { isCalledName } from '../../text/called-name.ts';
import { blankTags, tokensInPlace, type Token } from '../../text/tokens.ts';
import { ClusterBorders, mayTearCluster } from '../../text/clusters.ts';
import { sourceEnd } from '../../text/words.ts';

/** A match in one string: `[start, end)`, and which word of the query it is of. */
export interface Hit {
  start: number;
  end: number;
  word: number;
}

/** A letter or digit of ASCII always makes a word; other scripts are asked properly. */
const SURELY_WORDS = /[A-Za-z0-9]/;

/** The matches of one record: by JSON Pointer of a string. */
export type RecordHits = Map<string, { field: string; source: string; hits: Hit[] }>;

/** A match by number: the token of a string of the document, in the order of the index. */
interface TokenMatch {
  string: number;
  token: number;
  word: number;
  /** > 0: only so many letters of it were typed. */
  letters: number;
  /** They are the last ones. */
  isEnd: boolean;
}

/**
 * Finds what matched in the records of one answer: the typed part of a word that only begins with it, the whole word
 * otherwise. Each query word keeps only its best expansion in a record: where `rose` stands as typed, the misspelling
 * `rosa` is not marked for it.
 *
 * The index says which words of which string matched, just as it did when the record was found. Where they stand in the
 * text is found by reading that string once more in the same way, which keeps offsets out of the index.
 */
export class Marker {
  readonly #segment: Segment;
  readonly #words: readonly WordMatch[];
  readonly #fields: FieldWeights;
  readonly #any: Uint8Array;
  readonly #codes: readonly TermCodes[];
  readonly #indexed: Set<string>;
  readonly #planned: Set<string>;

  constructor({ segment, words, fields, codes: shared }: SegmentMatch) {
    this.#segment = segment;
    this.#words = words;
    this.#fields = fields;
    const { any, words: codes } = shared.get();
    this.#any = any;
    this.#codes = codes;
    this.#indexed = new Set(segment.meta.searchFields);
    this.#planned = new Set(segment.meta.planned);
  }

  /** The matches of a record in the strings that `wants` asks for; the others need not be read. */
  find(doc: number, record: RecordJson, wants: (field: string, pointer: string) => boolean): RecordHits {
    const found: RecordHits = new Map();
    const matches = this.#matches(doc);
    if (matches.length === 0) return found;
    const byString = new Map<number, TokenMatch[]>();
    for (const match of matches) {
      const list = byString.get(match.string);
      if (list) list.push(match);
      else byString.set(match.string, [match]);
    }
    let string = 0;
    let left = byString.size;
    eachLeaf(record, (field, value, pointer) => {
      if (left === 0 || value === null || !this.#isIndexed(field, value)) return;
      const source = String(value);
      const text = this.#segment.meta.html.includes(field) ? blankTags(source) : source;
      // Strings are numbered by their order among those with words; one that nobody asks for need not be read to count.
      const here = byString.get(string);
      const isWanted = here !== undefined && wants(field, pointer);
      if (!isWanted && SURELY_WORDS.test(text)) {
        string++;
        if (here !== undefined) left--;
        return;
      }
      const tokens = tokensInPlace(text, isWanted ? 1 + lastOf(here) : 1);
      if (tokens.length === 0) return;
      string++;
      if (here === undefined) return;
      left--;
      if (isWanted) found.set(pointer, { field, source, hits: hitsOf(here, tokens, source) });
    });
    return found;
  }

  #isIndexed(field: string, value: unknown): boolean {
    return this.#indexed.has(field) && (this.#planned.has(field) || isSearchedUnasked(isCalledName(field), value));
  }

  /** The tokens that match with the fewest typos of their word. */
  #matches(doc: number): TokenMatch[] {
    const { forward, forwardStarts } = this.#segment;
    const { languages } = this.#fields;
    const best = this.#words.map(() => ({ typos: Infinity, matches: [] as TokenMatch[] }));
    const offer = (typos: number, match: TokenMatch): void => {
      const own = best[match.word]!;
      if (typos > own.typos) return;
      if (typos < own.typos) {
        own.typos = typos;
        own.matches = [];
      }
      own.matches.push(match);
    };
    const at = new ForwardCursor(forward, forwardStarts[doc]!, forwardStarts[doc + 1]!);
    while (at.next()) {
      const { string, token, field, term } = at;
      if (this.#any[term] === 0 || this.#fields.weights[field] === 0) continue;
      const language = languages === null ? 0 : languageAt(languages, doc, field);
      this.#codes.forEach(({ codes, tables }, word) => {
        const table = tables[language]!;
        if (table[term] === 0) return;
        const { expansion, typos } = codes[table[term]!]!;
        if (typos > 0 && this.#fields.exact[field] === 1) return;
        const letters = expansion.whole || typos > 0 ? 0 : expansion.letters;
        offer(typos, { string, token, word, letters, isEnd: expansion.isEnd === true });
      });
    }
    this.#words.forEach(({ expansions }, word) => {
      for (const { together } of expansions) {
        if (together === null) continue;
        for (const { string, token } of this.#togetherIn(doc, together))
          offer(0, { string, token, word, letters: 0, isEnd: false });
      }
    });
    return best.flatMap(({ matches }) => matches);
  }

  /** Every token of every position where some words stand together. */
  #togetherIn(doc: number, { terms }: NonNullable<Expansion['together']>): { string: number; token: number }[] {
    const { forward, forwardStarts } = this.#segment;
    const found: { string: number; token: number }[] = [];
    let runs: { position: number; tokens: { string: number; token: number }[] }[] = [];
    const at = new ForwardCursor(forward, forwardStarts[doc]!, forwardStarts[doc + 1]!);
    while (at.next()) {
      const { string, token, term, position } = at;
      if (token === 0) runs = [];
      const counts = this.#fields.weights[at.field]! > 0;
      const grown = runs
        .filter((run) => run.position === position - 1 && terms[run.tokens.length] === term)
        .map(({ tokens }) => ({ position, tokens: [...tokens, { string, token }] }));
      if (terms[0] === term && counts) grown.push({ position, tokens: [{ string, token }] });
      found.push(...grown.filter(({ tokens }) => tokens.length === terms.length).flatMap(({ tokens }) => tokens));
      runs = [...runs.filter((run) => run.position >= position - 1), ...grown];
    }
    return found;
  }
}

/** The number of the last token that matches. */
const lastOf = (matches: readonly TokenMatch[]): number =>
  matches.reduce((last, { token }) => Math.max(last, token), 0);

function hitsOf(matches: readonly TokenMatch[], tokens: readonly Token[], source: string): Hit[] {
  const hits: Hit[] = [];
  let borders: ClusterBorders | null = null;
  for (const { token, word, letters, isEnd } of matches) {
    const found = tokens[token];
    // An index that older rules made may hold other words; it is being made again.
    if (found === undefined) continue;
    let { start, end } = found;
    if (isEnd) start = sourceEnd(source, start, end, found.text.length - letters);
    else if (letters > 0) end = sourceEnd(source, start, end, letters);
    if (mayTearCluster(source, start)) start = (borders ??= new ClusterBorders(source)).before(start);
    if (mayTearCluster(source, end)) end = (borders ??= new ClusterBorders(source)).after(end);
    hits.push({ start, end, word });
  }
  return hits;
}

/** Ranges in order, the ones that overlap joined. */
export function joinHits(hits: readonly { start: number; end: number }[]): Range[] {
  const joined: Range[] = [];
  for (const { start, end } of [...hits].sort((a, b) => a.start - b.start || a.end - b.end)) {
    const last = joined.at(-1);
    if (last && start < last[1]) last[1] = Math.max(last[1], end);
    else joined.push([start, end]);
  }
  return joined;
}
