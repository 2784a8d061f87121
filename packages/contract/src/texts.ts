/** The value of a JSON text (RFC 8259); undefined, which no JSON means, for a text that is none. */
export function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    if ((error as Error).name === 'SyntaxError') return undefined;
    throw error;
  }
}

/** A percent-encoded text (RFC 3986) as it was; null for one that nobody encoded so. */
export function percentDecoded(text: string): string | null {
  try {
    return decodeURIComponent(text);
  } catch (error) {
    if ((error as Error).name === 'URIError') return null;
    throw error;
  }
}
