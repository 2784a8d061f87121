import type { SearchAnswer } from '@yucca/contract';

/**
 * Where a placement sends whoever asks for these words: a path of the page's own server or an address of the web, or
 * null. Browsers take `/\\host` and `/<tab>/host` for another server's address, so neither is a path.
 */
export function redirectOf(answer: SearchAnswer | null): string | null {
  const to = answer?.understood.redirect ?? null;
  return to !== null && /^(https?:\/\/|\/(?!\/))[^\\\s]*$/.test(to) ? to : null;
}
