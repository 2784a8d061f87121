import { fnvOfBytes } from '../bytes/fnv.ts';
import { memoByObject } from '../memo/by-object.ts';
import type { ValueColumn } from './column.ts';
import { isWritten, type WrittenTexts } from './written-texts.ts';

/**
 * The values of one field in several segments, numbered as one: a text that two segments hold has one number. So what
 * segments counted is added up by number, and only what is listed is ever written out. Numbering takes one look at each
 * text, once for segments that answer together.
 */
export interface UnitedValues {
  /** How many texts there are. */
  size: number;
  /** Of these, the first so many are in text order: those of the first column. */
  inOrder: number;
  /** By column: the number here of each of its values; null where it is the value's own. */
  numbers: readonly (Uint32Array | null)[];
  text: (number: number) => string;
  /** What to show for a value; of several labels, that of the column that comes first. */
  label: (number: number) => string | null;
  /** The numbers of some texts. */
  find: (texts: ReadonlySet<string>) => number[];
}

/** Numbers the values of some columns, of which there is at least one. Those of the first keep their numbers. */
export function uniteValues([first, ...others]: readonly ValueColumn[]): UnitedValues {
  return others.reduce<Union>((before, column) => extendedBy(before)(column), alone(first!)).values;
}

interface Union {
  columns: readonly ValueColumn[];
  values: UnitedValues;
  /** Where a text that the first column lacks stands: which column, and as which of its values. */
  others: readonly { column: number; value: number }[];
}

const alone = memoByObject((column: ValueColumn): Union => ({
  columns: [column],
  others: [],
  values: {
    size: column.size,
    inOrder: column.size,
    numbers: [null],
    text: column.text,
    label: column.label,
    find: column.find,
  },
}));

/** What was united is kept with its last column, so it goes when that segment goes: the smallest is replaced often. */
const extendedBy = memoByObject((before: Union) => memoByObject((column: ValueColumn) => extend(before, column)));

function extend(before: Union, column: ValueColumn): Union {
  const columns = [...before.columns, column];
  const { inOrder } = before.values;
  const others = [...before.others];
  const own = new Uint32Array(column.size);
  const numbers = [...before.values.numbers, own];
  const { starts, bytes } = column.written();
  const tables = before.columns.map((one) => tableOf(one));
  for (let value = 0; value < column.size; value++) {
    const [from, to] = [starts[value]!, starts[value + 1]!];
    const hash = fnvOfBytes(bytes, from, to);
    let number = -1;
    for (let i = 0; i < tables.length && number === -1; i++) {
      const same = tables[i]!.find(hash, bytes, from, to);
      if (same !== -1) number = numbers[i]?.[same] ?? same;
    }
    // A number and a text that read alike stand side by side, and are one.
    if (
      number === -1 &&
      value > 0 &&
      own[value - 1]! >= before.values.size &&
      column.text(value) === column.text(value - 1)
    )
      number = own[value - 1]!;
    if (number === -1) number = inOrder + others.push({ column: columns.length - 1, value }) - 1;
    own[value] = number;
  }
  const size = inOrder + others.length;
  const written =
    <T>(of: (column: ValueColumn, value: number) => T) =>
    (number: number): T => {
      if (number < inOrder) return of(columns[0]!, number);
      const { column: at, value } = others[number - inOrder]!;
      return of(columns[at]!, value);
    };
  return {
    columns,
    others,
    values: {
      size,
      inOrder,
      numbers,
      text: written((one, value) => one.text(value)),
      label: labelOf(columns, numbers, size),
      find: (texts) => [
        ...new Set(columns.flatMap((one, i) => one.find(texts).map((value) => numbers[i]?.[value] ?? value))),
      ],
    },
  };
}

/** Which column has a label for a number is looked up the first time a label is asked for: most fields have none. */
function labelOf(
  columns: readonly ValueColumn[],
  numbers: readonly (Uint32Array | null)[],
  size: number,
): (number: number) => string | null {
  if (columns.every(({ hasLabels }) => !hasLabels)) return () => null;
  let valuesOf: Int32Array[] | undefined;
  return (number) => {
    valuesOf ??= columns.map((column, i) => {
      const values = new Int32Array(size).fill(-1);
      for (let value = column.size - 1; value >= 0; value--) values[numbers[i]?.[value] ?? value] = value;
      return values;
    });
    for (const [i, values] of valuesOf.entries()) {
      const label = values[number] === -1 ? null : columns[i]!.label(values[number]!);
      if (label !== null) return label;
    }
    return null;
  };
}

/** Finds a text among those of a column by its bytes: a table of twice as many places, gone on in from the hash. */
class TextTable {
  readonly #texts: WrittenTexts;
  /** 1 + the value; 0 = free. */
  readonly #values: Uint32Array;

  constructor(column: ValueColumn) {
    this.#texts = column.written();
    const { starts, bytes } = this.#texts;
    let places = 4;
    while (places < 2 * column.size) places *= 2;
    this.#values = new Uint32Array(places);
    for (let value = 0; value < column.size; value++) {
      const [from, to] = [starts[value]!, starts[value + 1]!];
      const hash = fnvOfBytes(bytes, from, to);
      if (this.find(hash, bytes, from, to) !== -1) continue;
      let place = hash & (places - 1);
      while (this.#values[place] !== 0) place = (place + 1) & (places - 1);
      this.#values[place] = value + 1;
    }
  }

  /** The first value that reads so; -1 when none does. */
  find(hash: number, bytes: Uint8Array, from: number, to: number): number {
    const values = this.#values;
    for (let place = hash & (values.length - 1); values[place] !== 0; place = (place + 1) & (values.length - 1))
      if (isWritten(this.#texts, values[place]! - 1, bytes, from, to)) return values[place]! - 1;
    return -1;
  }
}

const tableOf = memoByObject((column: ValueColumn) => new TextTable(column));
