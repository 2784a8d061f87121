const decoder = new TextDecoder();

/** Whether a byte is white space in JSON (RFC 8259). */
export function isSpace(byte: number): boolean {
  return byte === 0x20 || byte === 0x0a || byte === 0x0d || byte === 0x09;
}

/** The text of some pieces of UTF-8; a piece may end inside a letter. */
export function decoded(parts: readonly Uint8Array[]): string {
  if (parts.length === 1) return decoder.decode(parts[0]);
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return decoder.decode(whole);
}
