/**
 * Asks a browser's storage for something. Where it is closed off, or full, the browser throws a DOMException (Web Storage, HTML
 * Standard, section 12.2): then the answer is `otherwise`.
 */
export function fromStorage<T>(ask: () => T, otherwise: T): T {
  try {
    return ask();
  } catch (error) {
    if (error instanceof DOMException) return otherwise;
    throw error;
  }
}
