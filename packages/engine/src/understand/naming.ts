/**
 * What names a record: the title of its card, and the field that weighs most in a search. Told by the field's name in
 * any spelling, and by values that look like names: short, different from record to record, written by people.
 */
import { fieldWords } from '../text/field-words.ts';
import { FORMS, isCalledName } from '../text/called-name.ts';

export { isCalledName } from '../text/called-name.ts';

/** What is known of a field that may name the record. */
export interface NameEvidence {
  path: string;
  /** The share of records that hold one text there, 0 to 1. */
  coverage: number;
  /** Different texts for each text, 0 to 1. */
  different: number;
  /** Letters of a text on average. */
  letters: number;
  words: number;
  /** The share of texts made for machines: addresses, checksums, dates, numbers. */
  machine: number;
  /** The share that begins with a capital, or with a letter of a script without them. */
  capital: number;
  /** The share that are codes: capitals, digits and signs without a space. */
  code: number;
}

/** A text of a few capitals, digits and signs: `JFK`, `QB-310`, `1F600`, `#ff8800`. */
export const isCode = (text: string): boolean => /^#?[\p{Lu}\d][\p{Lu}\d._/-]{0,15}$|^#?[0-9a-f]{3,8}$/u.test(text);

/** Whether a text begins as a name does. */
export const beginsAsName = (text: string): boolean => /^[\p{Lu}\p{Lt}\p{Lo}]/u.test(text);

/** How well a field names its records; null when it does not. The best of all names them. */
export function nameRank(evidence: NameEvidence): number | null {
  const { path, coverage, different, letters, words, machine, capital, code } = evidence;
  if (coverage < 0.5 || letters > 120 || machine > 0.5 || letters === 0) return null;
  const called = isCalledName(path);
  if (code > 0.5 && !called) return null;
  const last = fieldWords(path).at(-1)!;
  const form = FORMS.indexOf(last);
  const depth = path.split('.').length - (form === -1 ? 1 : 2);
  return (
    (called ? 10 : 0) +
    // `name` alone names the record; `brand name` may name something else.
    (called && fieldWords(path).length === 1 ? 2 : 0) +
    4 * different +
    (letters >= 6 ? 1 : 0) +
    (words <= 8 ? capital : 0) -
    2 * depth -
    Math.max(0, form) / 10
  );
}

/** Whether a field that is not called a name is shown to be one by its values. */
export function looksLikeNames({ different, letters, words, capital, coverage, machine, code }: NameEvidence): boolean {
  return (
    coverage >= 0.9 && different >= 0.9 && letters >= 3 && words <= 8 && capital >= 0.6 && machine === 0 && code < 0.5
  );
}
