import { LeafType } from '../columns/column.ts';
import type { Segment } from '../segment/segment.ts';
import { Ranges } from './column-scan.ts';
import { knowsHolders, lookUpFor, nsOfLookUp, nsOfRecord } from './unkept-texts.ts';
import { FilterError } from './lexer.ts';
import type { FieldName } from './parse.ts';
import type { Decision } from './simplify.ts';
import type { ValueTest } from './value-test.ts';

/** Nanoseconds of a core that the condition of one search may take. */
const MOST_NS = 30_000_000;

/*
 * What parts of the work take, in nanoseconds, measured with a million documents.
 */
/** Combining two sets, a document. */
const SET_NS = 0.04;
/** Looking up the flag of a document's value, or comparing its number. */
const LOOK_NS = 5;
/** Decoding a text that no one asked for yet. */
const DECODE_NS = 250;
/** Comparing the time that a text says. */
const TIME_NS = 10;
/** Comparing the bytes of a text. */
const FIND_NS = 20;

/**
 * How much work the condition of a search may still take: whoever may only search may not have the searchers do any
 * amount of it. Estimated from what has been measured, not timed, so that the same question is answered or refused
 * whatever else the machine does.
 */
export class Work {
  #left: number;

  constructor(ns = MOST_NS) {
    this.#left = ns;
  }

  /** Counts a condition in, before any of it is decided. Throws a FilterError when it would take more than is left. */
  take(segment: Segment, decision: Decision): void {
    const counted = new Set<string>();
    const spend = (ns: number, refusal: () => FilterError): void => {
      this.#left -= ns;
      if (this.#left < 0) throw refusal();
    };
    const spendOnce = (key: string, ns: number, field: FieldName): void => {
      if (counted.has(key)) return;
      counted.add(key);
      spend(ns, () => refusalOf(segment, field));
    };
    const visit = (one: Decision, isNegated: boolean): void => {
      switch (one.op) {
        case 'constant':
          return;
        case 'not':
          return visit(one.part, !isNegated);
        case 'and':
        case 'or':
          spend(one.parts.length * SET_NS * segment.docs, () => tooMuch(undefined));
          return one.parts.forEach((part) => visit(part, isNegated));
        case 'isNull':
          return spendOnce(one.key, nsOfPresence(segment, one.field.path), one.field);
        case 'test':
          spendOnce(one.key, nsOfTest(segment, one.field.path, one.test), one.field);
          if (isNegated) spendOnce(`not ${one.key}`, nsOfPresence(segment, one.field.path), one.field);
      }
    };
    visit(decision, false);
  }
}

function nsOfTest(segment: Segment, path: string, { numbers, texts, boolean }: ValueTest): number {
  let ns = 0;
  const column = numbers.length === 0 ? null : segment.numbers(path);
  if (column !== null) ns += column.numbers.length * new Ranges(numbers).ns;
  const tested = (texts === null ? 0 : LeafType.String) | (boolean === null ? 0 : LeafType.Boolean);
  if ((segment.typesOf(path) & tested) === 0) return ns;
  if (!segment.keepsValues(path)) {
    const lookUp = texts === null ? null : lookUpFor(segment, path, texts);
    return ns + (lookUp === null ? nsOfReading(segment) : nsOfLookUp(segment, lookUp));
  }
  const { size, docValues } = segment.values(path)!;
  ns += docValues.length * LOOK_NS;
  if (texts?.only && boolean === null) return ns + size * FIND_NS + texts.only.size * DECODE_NS;
  const hasBooleans = boolean !== null && (segment.typesOf(path) & LeafType.Boolean) !== 0;
  if (texts?.ofTime && !hasBooleans) return ns + size * TIME_NS;
  return ns + size * (DECODE_NS + (texts?.ns ?? 0));
}

function nsOfPresence(segment: Segment, path: string): number {
  const ns = (segment.numbers(path)?.numbers.length ?? 0) * LOOK_NS;
  if ((segment.typesOf(path) & ~LeafType.Number) === 0) return ns;
  if (segment.keepsValues(path)) return ns + segment.values(path)!.docValues.length * LOOK_NS;
  return ns + (knowsHolders(segment, path) ? segment.docs : nsOfReading(segment));
}

const nsOfReading = (segment: Segment): number => segment.docs * nsOfRecord(segment);

function refusalOf(segment: Segment, field: FieldName): FilterError {
  const isRead = (segment.typesOf(field.path) & ~LeafType.Number) !== 0 && !segment.keepsValues(field.path);
  if (!isRead) return tooMuch(field);
  return new FilterError(
    `nearly every record has a text of its own in “${field.path}”, and so many records cannot all be read for one search; ` +
      'look for its words instead, or name the field in a facet or a sort of the tuning',
    field.line,
    field.column,
  );
}

function tooMuch(field: FieldName | undefined): FilterError {
  return new FilterError(
    'the condition compares too much for one search of so many records; join values of one field with IN, or ask for less',
    field?.line ?? 1,
    field?.column ?? 1,
  );
}
