const MADE = /^[A-Za-z0-9_-]{16}(-\d+)?$/;
/** Changes between small letters, capitals, digits and signs: a hash has about ten, a word that somebody wrote few. */
const CHANGES = 6;

const kindOf = (letter: string): number =>
  letter >= 'a' && letter <= 'z' ? 0 : letter >= 'A' && letter <= 'Z' ? 1 : letter >= '0' && letter <= '9' ? 2 : 3;

/**
 * Whether a key was made from a record's content, as loads do for rows without one (16 letters of base64url, RFC 4648).
 * Nobody types such a key, and its letters must not be found as words.
 */
export function isMadeKey(key: string): boolean {
  if (!MADE.test(key)) return false;
  let changes = 0;
  for (let i = 1; i < 16; i++) if (kindOf(key[i]!) !== kindOf(key[i - 1]!)) changes++;
  return changes >= CHANGES;
}
