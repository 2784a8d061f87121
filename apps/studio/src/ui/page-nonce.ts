/** The nonce of this page, for what writes style sheets while it runs; '' where there is none (development). */
export function pageNonce(): string {
  return document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce ?? '';
}
