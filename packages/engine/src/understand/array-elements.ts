import { BACKSLASH, CLOSE_BRACE, CLOSE_BRACKET, COMMA, OPEN_BRACE, OPEN_BRACKET, QUOTE } from '../record/json-signs.ts';
import { decoded, isSpace } from './json-bytes.ts';

/**
 * Cuts a JSON array (RFC 8259) into the texts of its elements while the bytes arrive, so that an array of any length
 * is read with the memory of one element. What an element holds is left to `JSON.parse`, which knows every rule of
 * the grammar and keeps a member called `__proto__` a member; here only strings and brackets are followed. In UTF-8 no
 * byte of a longer character is an ASCII one, so pieces may end anywhere, inside a character too.
 */
export class ArrayElements {
  /** The array's closing bracket was read. */
  closed = false;
  /** Bytes read up to the end of the last element. */
  readTo = 0;
  /** Bytes written so far. */
  #written = 0;
  /** Brackets open around the next byte, the array's own among them. */
  #depth = 0;
  #inString = false;
  #escaped = false;
  /** Elements met: `[]` lacks none, `[1,]` does. */
  #count = 0;
  #parts: Uint8Array[] = [];
  #partBytes = 0;
  readonly #maxBytes: number;

  /** @param maxBytes elements longer than this come without their text */
  constructor(maxBytes: number) {
    this.#maxBytes = maxBytes;
  }

  /**
   * Reads on, and returns the texts of the elements that are complete now; null for one that is too long.
   *
   * @throws {SyntaxError} when the first byte but white space is no `[`, a comma has no element beside it, or anything
   *   stands behind the array
   */
  *write(bytes: Uint8Array): Generator<string | null> {
    let from = 0;
    for (let at = 0; at < bytes.length; at++) {
      const byte = bytes[at]!;
      if (this.#inString) {
        if (this.#escaped) this.#escaped = false;
        else if (byte === BACKSLASH) this.#escaped = true;
        else if (byte === QUOTE) this.#inString = false;
        continue;
      }
      if (this.#depth === 0) {
        if (isSpace(byte)) continue;
        if (this.closed) throw new SyntaxError('something stands behind the end of the array');
        if (byte !== OPEN_BRACKET) throw new SyntaxError('it does not begin with [');
        this.#depth = 1;
        from = at + 1;
      } else if (byte === QUOTE) {
        this.#inString = true;
      } else if (byte === OPEN_BRACE || byte === OPEN_BRACKET) {
        this.#depth++;
      } else if (this.#depth > 1) {
        if (byte === CLOSE_BRACE || byte === CLOSE_BRACKET) this.#depth--;
      } else if (byte === COMMA || byte === CLOSE_BRACKET) {
        this.#keep(bytes.subarray(from, at));
        from = at + 1;
        const element = this.#finish(byte === CLOSE_BRACKET);
        this.readTo = this.#written + from;
        if (element !== undefined) yield element;
      }
    }
    if (this.#depth > 0) this.#keep(bytes.subarray(from));
    this.#written += bytes.length;
  }

  #keep(part: Uint8Array): void {
    this.#partBytes += part.length;
    if (this.#partBytes > this.#maxBytes) this.#parts = [];
    // A copy: whoever writes may fill the same memory again.
    else if (part.length > 0) this.#parts.push(part.slice());
  }

  /** The element that has ended; undefined where an empty array has none. */
  #finish(isLast: boolean): string | null | undefined {
    const text = this.#partBytes > this.#maxBytes ? null : decoded(this.#parts);
    this.#parts = [];
    this.#partBytes = 0;
    if (isLast) {
      this.#depth = 0;
      this.closed = true;
    }
    if (text?.trim() === '') {
      if (isLast && this.#count === 0) return undefined;
      throw new SyntaxError(`there is nothing ${isLast ? 'after' : 'before'} a comma`);
    }
    this.#count++;
    return text;
  }
}
