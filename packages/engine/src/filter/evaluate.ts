import { memoByName } from '../memo/by-object.ts';
import { LeafType, type ValueColumn } from '../columns/column.ts';
import { timesOf } from '../columns/times.ts';
import type { Segment } from '../segment/segment.ts';
import { DocSet } from '../sets/doc-set.ts';
import { addFlagged, addInRanges, Ranges } from './column-scan.ts';
import type { Work } from './cost.ts';
import type { Condition } from './parse.ts';
import { simplify, type Decision } from './simplify.ts';
import { addLookedUp, addWithText, knowsHolders, lookUpFor } from './unkept-texts.ts';
import type { TextTest, ValueTest } from './value-test.ts';

/**
 * The documents of a segment for which a condition is true, in SQL's three values: a comparison with an absent value is
 * neither true nor false. Each comparison is decided once for each distinct value of its field, then for each document
 * by a look into its column; the rest is algebra on sets. Not to be changed: parts of it are shared. Throws a
 * FilterError when it would take more work than is left; without `work` it takes what it takes.
 */
export function evaluate(segment: Segment, condition: Condition, work?: Work): DocSet {
  const decision = simplify(condition, (path) => holdsSingle(segment, path));
  work?.take(segment, decision);
  return new Evaluation(segment).holds(decision);
}

/** Whether no document holds two values in a field. */
function holdsSingle(segment: Segment, path: string): boolean {
  const types = segment.typesOf(path);
  // A number and a text may stand in one list, each alone of its kind.
  if (types === LeafType.Number) return segment.numbers(path)?.docStarts === null;
  return types === LeafType.String && segment.keepsValues(path) && segment.values(path)?.docStarts === null;
}

class Evaluation {
  readonly #segment: Segment;
  /** Comparisons that stand in the condition more than once are decided once. */
  readonly #decided = new Map<string, DocSet>();

  constructor(segment: Segment) {
    this.#segment = segment;
  }

  /** Where it is true. */
  holds(decision: Decision): DocSet {
    const { docs } = this.#segment;
    switch (decision.op) {
      case 'constant':
        return decision.value ? DocSet.all(docs) : new DocSet(docs);
      case 'not':
        return this.#fails(decision.part);
      case 'and':
      case 'or':
        return fold(
          decision.op,
          decision.parts.map((part) => this.holds(part)),
        );
      case 'isNull':
        return DocSet.all(docs).minus(presentIn(this.#segment, decision.field.path));
      case 'test': {
        const { key, field, test } = decision;
        let set = this.#decided.get(key);
        if (set === undefined) this.#decided.set(key, (set = passing(this.#segment, field.path, test)));
        return set;
      }
    }
  }

  /** Where it is false; elsewhere it is unknown. */
  #fails(decision: Decision): DocSet {
    const { docs } = this.#segment;
    switch (decision.op) {
      case 'constant':
        return decision.value ? new DocSet(docs) : DocSet.all(docs);
      case 'not':
        return this.holds(decision.part);
      case 'and':
      case 'or':
        return fold(
          decision.op === 'and' ? 'or' : 'and',
          decision.parts.map((part) => this.#fails(part)),
        );
      case 'isNull':
        return presentIn(this.#segment, decision.field.path);
      case 'test':
        return presentIn(this.#segment, decision.field.path).copy().minus(this.holds(decision));
    }
  }
}

function fold(op: 'and' | 'or', [first, ...rest]: DocSet[]): DocSet {
  const set = first!.copy();
  for (const one of rest) set[op](one);
  return set;
}

/** The documents of which some value of a field passes. */
function passing(segment: Segment, path: string, { numbers, texts, boolean }: ValueTest): DocSet {
  const set = new DocSet(segment.docs);
  const column = numbers.length === 0 ? null : segment.numbers(path);
  if (column !== null) addInRanges(column, segment.docs, new Ranges(numbers), set);
  const tested = (texts === null ? 0 : LeafType.String) | (boolean === null ? 0 : LeafType.Boolean);
  if ((segment.typesOf(path) & tested) === 0) return set;
  if (!segment.keepsValues(path)) {
    const lookUp = texts === null ? null : lookUpFor(segment, path, texts);
    if (lookUp !== null) {
      addLookedUp(segment, path, texts!, lookUp, set);
      return set;
    }
    segment.eachRead(path, (doc, value) => {
      if (typeof value === 'string' ? texts?.passes(value) : typeof value === 'boolean' && boolean?.(value))
        set.add(doc);
    });
    return set;
  }
  const values = segment.values(path)!;
  const flags = new Uint8Array(values.size);
  const passesText = textTest(values, texts);
  const decide = (value: number): void => {
    const type = values.types[value]!;
    if (type === LeafType.String) flags[value] = passesText(value) ? 1 : 0;
    else if (type === LeafType.Boolean) flags[value] = boolean?.(values.text(value) === 'true') ? 1 : 0;
  };
  if (texts?.only && boolean === null) values.find(texts.only).forEach(decide);
  else for (let value = 0; value < values.size; value++) decide(value);
  addFlagged(values, segment.docs, flags, set);
  return set;
}

/** Whether the text of a value passes; the time that it says is known, and need not be read again. */
function textTest(values: ValueColumn, test: TextTest | null): (value: number) => boolean {
  if (test === null) return () => false;
  const { ofTime, passes } = test;
  if (ofTime === null) return (value) => passes(values.text(value));
  const times = timesOf(values);
  return (value) => ofTime(times[value]!);
}

/** The documents that hold any scalar in a field. */
const presentIn = memoByName((segment: Segment, path: string): DocSet => {
  const set = new DocSet(segment.docs).keep();
  const numbers = segment.numbers(path);
  if (numbers !== null) addInRanges(numbers, segment.docs, new Ranges([{ from: -Infinity, to: Infinity }]), set);
  const hasOthers = (segment.typesOf(path) & ~LeafType.Number) !== 0;
  if (hasOthers && segment.keepsValues(path)) {
    const values = segment.values(path)!;
    addFlagged(values, segment.docs, new Uint8Array(values.size).fill(1), set);
  } else if (hasOthers && knowsHolders(segment, path)) {
    addWithText(segment, path, set);
  } else if (hasOthers) {
    segment.eachRead(path, (doc) => set.add(doc));
  }
  return set;
});
