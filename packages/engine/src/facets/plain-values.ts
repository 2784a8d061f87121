import { memoByObject } from '../memo/by-object.ts';
import type { ValueColumn } from '../columns/column.ts';

/** The values of documents as they are counted. */
export type PlainValues = Pick<ValueColumn, 'size' | 'docStarts' | 'docValues'>;

/**
 * The values of a column as a facet counts them: an empty text is no value, and one text that stands as two types (`1`
 * and `"1"`) is one value, the first of the two. Most columns are so already; of others a copy is made once, so that
 * counting never has to look at a text.
 */
export const plainValues = memoByObject(makePlain);

/** The number of a value that is none. */
const NONE = -1;

function makePlain(column: ValueColumn): PlainValues {
  const { size, docStarts, docValues } = column;
  const numbers = plainNumbers(column);
  if (numbers === null) return column;
  if (docStarts === null)
    return { size, docStarts, docValues: docValues.map((value) => (value === 0 ? 0 : numbers[value - 1]! + 1)) };
  const starts = new Uint32Array(docStarts.length);
  const values = docValues.slice();
  let end = 0;
  for (let doc = 0; doc + 1 < docStarts.length; doc++) {
    const from = end;
    for (let at = docStarts[doc]!; at < docStarts[doc + 1]!; at++) {
      const number = numbers[docValues[at]!]!;
      if (number !== NONE && !values.subarray(from, end).includes(number)) values[end++] = number;
    }
    starts[doc + 1] = end;
  }
  return { size, docStarts: starts, docValues: values };
}

/**
 * What each value counts as; null when each counts as itself. Values are in sort order, so that equal texts are
 * neighbours.
 */
function plainNumbers(column: ValueColumn): Int32Array | null {
  const hasEmpty = column.size > 0 && column.text(0) === '';
  const hasTypes = new Set(column.types).size > 1;
  if (!hasEmpty && !hasTypes) return null;
  const numbers = new Int32Array(column.size);
  for (let value = 0; value < numbers.length; value++) numbers[value] = value;
  let changed = hasEmpty;
  if (hasTypes)
    for (let value = 1; value < column.size; value++) {
      if (column.text(value) !== column.text(value - 1)) continue;
      numbers[value] = numbers[value - 1]!;
      changed = true;
    }
  if (hasEmpty) for (let value = 0; value < column.size && numbers[value] === 0; value++) numbers[value] = NONE;
  return changed ? numbers : null;
}
