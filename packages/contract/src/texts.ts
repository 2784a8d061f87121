/**
 * Runs something of which one kind of error is expected, and answers `otherwise` when that comes. Any other is passed
 * on. (Web Storage, HTML Standard, section 12.2, throws a DOMException where it is closed off or full.)
 */
export function unless<T>(kind: new (...args: never[]) => Error, run: () => T, otherwise: T): T {
  try {
    return run();
  } catch (error) {
    if (error instanceof kind) return otherwise;
    throw error;
  }
}

/** The value of a JSON text (RFC 8259); undefined, which no JSON means, for a text that is none. */
export const parsedJson = (text: string): unknown => unless<unknown>(SyntaxError, () => JSON.parse(text), undefined);

/** A percent-encoded text (RFC 3986) as it was; null for one that nobody encoded so. */
export const percentDecoded = (text: string): string | null => unless(URIError, () => decodeURIComponent(text), null);
