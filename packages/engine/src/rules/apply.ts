import type { FieldRule, RecordJson } from '@yucca/contract';
import { memoByObject } from '../memo/by-object.ts';
import { coerce } from './coercions.ts';
import { isPairOfNumbers, positionFrom } from './positions.ts';

/** Tells what was found at a rule's field and what it was read as. */
export type OnValue = (before: unknown, after: unknown) => void;

/**
 * Reads the fields of a record by the rules, in one walk through it: what a record costs grows with its fields, not
 * with the rules. Returns the same record when nothing changes; never changes it. A list of rules must not be altered
 * once it was given.
 */
export function applyRules(record: RecordJson, rules: readonly FieldRule[], onValue?: OnValue): RecordJson {
  if (rules.length === 0) return record;
  const { paths, made } = sorted(rules);
  const read = paths === null ? record : (entered(record, paths, onValue) as RecordJson);
  return made.reduce((now, rule) => withPosition(now, rule, onValue), read);
}

/** Rules by what they need: those that read a value where it stands, and positions made of two fields. */
const sorted = memoByObject((rules: readonly FieldRule[]) => {
  const made = rules.filter(({ from }) => from !== undefined);
  const inPlace = rules.filter(({ from }) => from === undefined);
  return { made, paths: inPlace.length === 0 ? null : new Paths(inPlace.map((rule) => ({ rest: rule.field, rule }))) };
});

/** Names remembered at one level: where names are data there is no end of them. */
const MOST_NAMES = 2_000;

/** Where a walk stands among the paths of the rules: what ends here, and what goes on by which name. */
class Paths {
  readonly ending: FieldRule[];
  readonly #going: { rest: string; rule: FieldRule }[];
  #withoutEnding: Paths | null = null;
  readonly #byName = new Map<string, Paths | null>();

  constructor(paths: { rest: string; rule: FieldRule }[]) {
    this.ending = paths.filter(({ rest }) => rest === '').map(({ rule }) => rule);
    this.#going = paths.filter(({ rest }) => rest !== '');
  }

  get goOn(): boolean {
    return this.#going.length > 0;
  }

  /** The same but for the rules that end here. */
  get going(): Paths {
    return this.ending.length === 0 ? this : (this.#withoutEnding ??= new Paths(this.#going));
  }

  /** Behind a name, which may have dots in it itself; null when no rule leads there. */
  below(name: string): Paths | null {
    let known = this.#byName.get(name);
    if (known === undefined) {
      const rests = this.#going.flatMap(({ rest, rule }) =>
        rest === name
          ? [{ rest: '', rule }]
          : rest.startsWith(`${name}.`)
            ? [{ rest: rest.slice(name.length + 1), rule }]
            : [],
      );
      known = rests.length === 0 ? null : new Paths(rests);
      if (this.#byName.size < MOST_NAMES) this.#byName.set(name, known);
    }
    return known;
  }
}

function entered(value: unknown, paths: Paths, onValue?: OnValue): unknown {
  if (value === null || typeof value !== 'object') return value;
  if (Array.isArray(value)) return eachItem(value, paths, onValue);
  return paths.goOn ? eachField(value as RecordJson, paths, onValue) : value;
}

function eachField(fields: RecordJson, paths: Paths, onValue?: OnValue): RecordJson {
  let changed: RecordJson | null = null;
  for (const name of Object.keys(fields)) {
    const below = paths.below(name);
    if (below === null) continue;
    const after = atField(fields[name], below, false, onValue);
    // Spreading defines own properties, so a field called __proto__ stays a field, and may be written as one.
    if (after !== fields[name]) (changed ??= { ...fields })[name] = after as RecordJson[string];
  }
  return changed ?? fields;
}

function eachItem(list: unknown[], paths: Paths, onValue?: OnValue): unknown {
  const read = list.map((item) => atField(item, paths, true, onValue));
  return read.some((item, i) => item !== list[i]) ? read : list;
}

/** A list inside a list would have no path of its own, so items of a list are never read as lists. */
function atField(value: unknown, paths: Paths, inList: boolean, onValue?: OnValue): unknown {
  let now = value;
  for (const rule of paths.ending) {
    if (now === null || (inList && rule.as === 'list')) continue;
    // A pair of numbers is one value to whoever asks for a position, and two to everybody else.
    if (Array.isArray(now) && !(rule.as === 'position' && isPairOfNumbers(now))) continue;
    const before = now;
    now = coerce(rule, before);
    onValue?.(before, now);
  }
  // What a rule has made is not read by it once more: JSON inside JSON opens a level at a time.
  return entered(now, now === value ? paths : paths.going, onValue);
}

/** A record with the position that two of its fields make; without it where they make none. */
function withPosition(record: RecordJson, rule: FieldRule, onValue?: OnValue): RecordJson {
  const position = positionFrom(record, rule.from as [string, string]);
  const before = Object.hasOwn(record, rule.field) ? record[rule.field] : undefined;
  if (position === null) return record;
  const isSame = JSON.stringify(before) === JSON.stringify(position);
  onValue?.(before ?? null, isSame ? before : position);
  if (isSame) return record;
  const rest = Object.entries(record).filter(([name]) => name !== rule.field);
  return Object.fromEntries([...rest, [rule.field, position]]) as RecordJson;
}
