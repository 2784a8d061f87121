/**
 * Whether a text is an address of the web, or a path of the page's own server. Browsers take `/\host` and `/<tab>/host`
 * for another server's address, so neither is a path.
 */
export const isWebAddress = (text: unknown): text is string =>
  typeof text === 'string' && /^(https?:\/\/|\/(?!\/))[^\\\s]*$/.test(text);
