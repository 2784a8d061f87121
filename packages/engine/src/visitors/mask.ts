/** What may name a person, and what stands in its place. Each is looked for in what the one before has left. */
const MASKS: readonly (readonly [pattern: RegExp, mask: string, holds?: (found: string) => boolean])[] = [
  [/[\p{L}\p{N}._%+-]{1,64}@[\p{L}\p{N}-]{1,63}(?:\.[\p{L}\p{N}-]{1,63}){0,4}/gu, '(e-mail)'],
  // 14 to 19 digits, in groups or not, that add up (ISO/IEC 7812-1, annex B); bar codes of goods have 13.
  [/\b\d(?:[ -]?\d){13,18}\b/g, '(card)', addsUp],
  // At least nine digits with whatever people write between them (ITU-T E.123).
  [/(?:\+|\b00|\b0|\()\d?(?:[ ()./-]{0,2}\d){8,14}\b/g, '(phone)'],
];

/** A query as it may be kept: e-mail addresses, numbers of cards and of phones are masked. */
export function masked(q: string): string {
  // Most queries hold neither.
  if (!/[@\d]/.test(q)) return q;
  let text = q;
  for (const [pattern, mask, holds] of MASKS)
    text = text.replace(pattern, (found) => (holds === undefined || holds(found) ? mask : found));
  return text;
}

/** The check digit of cards: every second digit from the right doubled, their digits summed, a multiple of ten. */
function addsUp(text: string): boolean {
  let sum = 0;
  const digits = text.replace(/\D/g, '');
  for (let i = 0; i < digits.length; i++) {
    const digit = Number(digits[digits.length - 1 - i]);
    const value = i % 2 === 0 ? digit : digit * 2;
    sum += value > 9 ? value - 9 : value;
  }
  return sum % 10 === 0;
}
