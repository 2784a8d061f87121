import type { SearchAnswer } from '@yucca/contract';
import { isWebAddress } from './web-address.ts';

/** Where a placement sends whoever asks for these words: an address of the web or a path of the server, or null. */
export function redirectOf(answer: SearchAnswer | null): string | null {
  const to = answer?.understood.redirect;
  return isWebAddress(to) ? to : null;
}
