'use client';

import { setNonce } from 'get-nonce';

/**
 * Gives the page's nonce to what writes style sheets while it runs: dialogs keep the page from scrolling behind them.
 */
export function StyleNonce({ nonce }: { nonce: string | undefined }) {
  if (nonce !== undefined && nonce !== '') setNonce(nonce);
  return null;
}
