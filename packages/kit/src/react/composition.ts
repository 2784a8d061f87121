/** Scripts whose letters stand for themselves while they are composed: what is shown may be searched. */
const CERTAIN =
  /^[\p{Script=Hangul}\p{Script=Cyrillic}\p{Script=Greek}\p{Script=Arabic}\p{Script=Hebrew}\p{M}\p{N}]+$/u;
const LATIN = /^[\p{Script=Latin}\p{M}\p{N}]+$/u;

/**
 * Whether what an input method shows so far is what its user means to write. Phone keyboards compose every word, Latin
 * ones too, and their users wait for results; in Latin letters on the way to Chinese or Japanese nobody does. Both send
 * the same events (UI Events, 5.7), but for the key: a phone's keyboard does not tell it, an input method on a desk
 * says that it processes it.
 *
 * @param composed the letters that are being composed
 * @param key `key` of the last keydown
 */
export const isCertain = (composed: string, key: string): boolean =>
  CERTAIN.test(composed) || (key === 'Unidentified' && LATIN.test(composed));
