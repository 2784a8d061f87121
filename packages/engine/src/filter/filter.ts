import { memoByObject } from '../memo/by-object.ts';
import type { Segment } from '../segment/segment.ts';
import type { DocSet } from '../sets/doc-set.ts';
import { evaluate } from './evaluate.ts';
import { FilterError } from './lexer.ts';
import { nearestName } from './nearest-name.ts';
import { eachField, parseFilter, type Condition } from './parse.ts';
import type { Work } from './cost.ts';

/** Whether a field may be named to whoever wrote a condition: its name may be a secret as well. */
export type MayName = (path: string) => boolean;

/**
 * Reads a condition and checks that its fields are fields of the collection. Throws a FilterError, which names the
 * nearest field there is, if `mayName` allows it.
 */
export function readFilter(source: string, segments: readonly Segment[], mayName: MayName = () => true): Condition {
  const condition = parseFilter(source);
  // Before the first record there are no fields, and every condition may be set up already.
  if (segments.length === 0) return condition;
  const names = new Set(segments.flatMap(({ paths }) => paths));
  eachField(condition, ({ path, line, column }) => {
    if (names.has(path)) return;
    const near = nearestName(path, new Set([...names].filter(mayName)));
    throw new FilterError(`unknown field "${path}"${near === null ? '' : `, did you mean "${near}"?`}`, line, column);
  });
  return condition;
}

/** Sets of recent conditions, kept with their segment: a key's filter and a page's filter come with every keystroke. */
const KEPT = 24;

/**
 * Apart from each other, so that whoever asks with ever new conditions does not have a key's own decided again each
 * time.
 */
const askedSets = memoByObject<Segment, Map<string, DocSet>>(() => new Map());
const unlimitedSets = memoByObject<Segment, Map<string, DocSet>>(() => new Map());

/**
 * The documents of a segment that fulfil a condition. Not to be changed: it is shared with later queries. Throws a
 * FilterError when it would take more work than is left; without `work` it takes what it takes.
 */
export function filterSet(segment: Segment, source: string, condition: Condition, work?: Work): DocSet {
  const known = unlimitedSets(segment).get(source) ?? askedSets(segment).get(source);
  if (known !== undefined) return known;
  const set = evaluate(segment, condition, work).keep();
  const recent = (work === undefined ? unlimitedSets : askedSets)(segment);
  if (recent.size >= KEPT) recent.delete(recent.keys().next().value!);
  recent.set(source, set);
  return set;
}
