/** How else a word may be written. */
export interface Variants {
  /** Plurals and singulars. */
  forms: string[];
  /** Written as it sounds. */
  sounds: string[];
  /** Slips of the hand and of the memory. */
  slips: string[];
}

/** Letters that sound alike in English and in the Latin that is spoken there. */
const SOUNDS: readonly [RegExp, string][] = [
  [/ph/g, 'f'],
  [/ch(?=[aeiouy])/g, 'sh'],
  [/chs/g, 'sh'],
  [/chs/g, 'sch'],
  [/ch(?=[lr])/g, 'c'],
  [/ch/g, 'k'],
  [/sc(?=[ei])/g, 's'],
  [/c(?=[eiy])/g, 's'],
  [/c(?=[aou])/g, 'k'],
  [/k/g, 'c'],
  [/x/g, 'ks'],
  [/qu/g, 'kw'],
  [/y(?=[^aeiou]|$)/g, 'i'],
  [/i(?=[^aeiou])/g, 'y'],
  [/ae/g, 'e'],
  [/oe/g, 'e'],
  [/eu/g, 'u'],
  [/([rt])h/g, '$1'],
  [/z/g, 's'],
  [/tia$/g, 'sha'],
  [/cia$/g, 'sha'],
  [/ia$/g, 'ea'],
  [/ea/g, 'ee'],
  [/ie/g, 'ei'],
  [/ei/g, 'ie'],
  [/er$/g, 're'],
  [/or$/g, 'er'],
  [/ough/g, 'o'],
];

const FORMS: readonly [RegExp, string][] = [
  [/([^aeiou])y$/, '$1ies'],
  [/ies$/, 'y'],
  [/(s|x|z|ch|sh)$/, '$1es'],
  [/us$/, 'i'],
  [/i$/, 'us'],
  [/a$/, 'ae'],
  [/um$/, 'a'],
  [/f$/, 'ves'],
  [/([^s])$/, '$1s'],
  [/([^su])s$/, '$1'],
];

const MOST = 12;

/**
 * Other ways to write a word: forms by rule, spellings by sound, and slips. English, and Latin as it is spelt in
 * English.
 */
export function variantsOf(word: string): Variants {
  const text = word.trim().toLowerCase();
  if (text.length < 3 || /[^\p{L}\s'-]/u.test(text)) return { forms: [], sounds: [], slips: [] };
  const by = (rules: readonly [RegExp, string][]): string[] => rules.map(([from, to]) => text.replace(from, to));
  const seen = new Set([text]);
  const fresh = (list: readonly string[]): string[] => list.filter((one) => !seen.has(one) && seen.add(one)).slice(0, MOST); // prettier-ignore
  return { forms: fresh(by(FORMS)), sounds: fresh(by(SOUNDS)), slips: fresh(slipsOf(text)) };
}

/** A letter doubled or not, neighbours swapped, words run together. */
function slipsOf(text: string): string[] {
  const slips: string[] = [];
  if (/\s|-/.test(text)) slips.push(text.replace(/[\s-]+/g, ''));
  for (let i = 1; i < text.length; i++) {
    if (text[i] === text[i - 1]) slips.push(text.slice(0, i) + text.slice(i + 1));
    else if ('lnsrtpm'.includes(text[i]!) && /[aeiou]/.test(text[i - 1]!)) slips.push(text.slice(0, i) + text[i] + text.slice(i)); // prettier-ignore
  }
  for (let i = 1; i + 1 < text.length; i++)
    if (text[i] !== text[i + 1]) slips.push(text.slice(0, i) + text[i + 1] + text[i] + text.slice(i + 2));
  return slips;
}
