import {
  eachLeaf,
  LIMITS,
  type NearestWord,
  type Reason,
  type SearchRequest,
  type Tuning,
  type Whereabouts,
} from '@yucca/contract';
import { Selection } from '../facets/selection.ts';
import { filterSet } from '../filter/filter.ts';
import { DocSet } from '../sets/doc-set.ts';
import { typoDistances } from '../text/distance.ts';
import { words } from '../text/words.ts';
import type { Generation } from '../segment/generation.ts';
import type { QueryContext } from './context.ts';
import { readCondition, within, type SegmentMatch } from './match/match-query.ts';
import type { QueryWord } from './parse/parse-query.ts';
import { withArranged, type Arranged } from './arrange.ts';
import { present } from './present/present.ts';
import { anywhere, matchWord } from './match/word-match.ts';

interface Found {
  segment: number;
  doc: number;
}

/**
 * Where the record with this key stands among the results of a search, or everything that keeps it out. Throws as
 * search does. A record outside the forced filter does not exist.
 */
export function whereabouts(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  id: string,
  context: QueryContext = {},
): Whereabouts {
  const whole: SearchRequest = { ...request, page: 1, size: LIMITS.resultWindow, facets: [], explain: true };
  return DocSet.scoped(() =>
    withArranged(generation, tuning, whole, context, (arranged) => {
      const { matching, shown, total, others } = arranged;
      const found = findRecord(generation, id, context);
      if (found === null) return { id, place: null, total, result: null, reasons: [{ kind: 'absent' }] };
      const at = shown.findIndex((one) => {
        const { segment, doc } = one.pin ?? one.candidate;
        return segment === found.segment && doc === found.doc;
      });
      if (at === -1)
        return {
          id,
          place: null,
          total,
          result: null,
          reasons: reasonsFor(generation, tuning, whole, arranged, found, id),
        };
      const [result] = present(matching, tuning, whole, [shown[at]!], others);
      return { id, place: at + 1, total, result: result!, reasons: [] };
    }),
  );
}

function findRecord({ segments }: Generation, id: string, { forcedFilter }: QueryContext): Found | null {
  const all = segments.map(({ segment }) => segment);
  for (const [index, { segment, dead }] of segments.entries()) {
    const doc = segment.docsOfKey(id).find((one) => !dead.has(one));
    if (doc === undefined) continue;
    const visible = !forcedFilter || filterSet(segment, forcedFilter, readCondition(forcedFilter, all, '')).has(doc);
    return visible ? { segment: index, doc } : null;
  }
  return null;
}

function reasonsFor(
  generation: Generation,
  tuning: Tuning,
  request: SearchRequest,
  { matching, parsed, placed, dropped }: Arranged,
  { segment: index, doc }: Found,
  id: string,
): Reason[] {
  const match = matching.segments[index]!;
  const { segment } = match;
  const all = generation.segments.map((one) => one.segment);
  const reasons: Reason[] = [];
  if (request.filter && !filterSet(segment, request.filter, readCondition(request.filter, all, '/filter')).has(doc))
    reasons.push({ kind: 'filter' });
  if (request.near?.withinM !== undefined && !within(segment, tuning, request.near).has(doc))
    reasons.push({ kind: 'near' });
  for (const [facet, choice] of Object.entries(request.select ?? {})) {
    const alone = new Selection(tuning, { select: { [facet]: choice } });
    if (!alone.apply(segment, DocSet.all(segment.docs)).set.has(doc)) reasons.push({ kind: 'choice', facet });
  }
  for (const word of parsed.excluded) {
    const held = anywhere(matchWord(segment, word, [], match.fields, tuning));
    if (held.has(doc)) reasons.push({ kind: 'excluded', word: word.text });
  }
  reasons.push(...missingWords(matching.words, match, tuning, dropped, doc));
  if (placed.hide.includes(id)) {
    const hiding = tuning.placements.find(({ name, hide }) => placed.names.includes(name) && hide.includes(id));
    reasons.push({ kind: 'hidden', placement: hiding?.name ?? '' });
  }
  if (reasons.length > 0) return reasons;
  return [tuning.group === null ? { kind: 'far' } : { kind: 'group', field: tuning.group.field }];
}

/** The words a record would have to hold and does not. */
function missingWords(
  query: readonly QueryWord[],
  match: SegmentMatch,
  { words: { require } }: Tuning,
  dropped: readonly string[],
  doc: number,
): Reason[] {
  const lacking = query.filter((_, i) => !anywhere(match.words[i]!).has(doc));
  const needed = lacking.filter(({ optional, typed }) => !optional && !dropped.includes(typed));
  // With none required one word is enough: they keep it out only all together.
  if (require === 'any' && lacking.length < query.length) return [];
  return needed.map(({ typed, text, typos }) => ({
    kind: 'word',
    word: typed,
    typosAllowed: typos,
    nearest: nearestIn(match, doc, text),
  }));
}

/** The word in a record's searched fields that is spelt most like another one. */
function nearestIn({ segment, fields: { weights } }: SegmentMatch, doc: number, text: string): NearestWord | null {
  const searched = new Set(segment.meta.searchFields.filter((_, field) => weights[field]! > 0));
  let best: NearestWord | null = null;
  const farthest = Math.max(1, Math.floor(text.length / 3));
  eachLeaf(segment.record(doc), (field, value) => {
    if (value === null || !searched.has(field)) return;
    for (const { text: word } of words(String(value))) {
      const begins = word !== text && word.startsWith(text);
      const typos = begins ? 0 : typoDistances(text, word).whole;
      const better = best === null || typos < best.typos || (typos === best.typos && best.begins && !begins);
      if (typos <= farthest && better) best = { text: word, field, typos, begins };
    }
  });
  return best;
}
