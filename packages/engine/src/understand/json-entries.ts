import { BACKSLASH, CLOSE_BRACE, CLOSE_BRACKET, COMMA, OPEN_BRACE, OPEN_BRACKET, QUOTE } from '../record/json-signs.ts';
import { pointerNames } from '@yucca/contract';
import { decoded, isSpace } from './json-bytes.ts';

/** What stands at the pointer that was looked for: an element, a member, or an element of a member's list. */
export interface JsonEntry {
  /** The name of the member; null for an element of a list. */
  key: string | null;
  /** The name of the member whose list it stands in; null for all others. */
  group: string | null;
  /** Its JSON; null when it is longer than is read. */
  text: string | null;
}

interface Frame {
  isObject: boolean;
  /** In an object: a name comes next, not a value. */
  wantsKey: boolean;
  key: string | null;
  index: number;
  /** The name of the member that this list is; null for all others. */
  group: string | null;
}

const COLON = 0x3a;

/**
 * Cuts what stands at one place of a JSON text (RFC 8259) into its entries while the bytes arrive, with the memory of
 * one entry, however much stands before it and behind it. An object whose members are lists of objects is cut into
 * those. Only strings and brackets are followed; what an entry holds is left to `JSON.parse`.
 */
export class JsonEntries {
  /** What the pointer leads to was found. */
  found = false;
  /** It was read to its end. */
  closed = false;
  readonly #names: readonly string[];
  readonly #maxBytes: number;
  /** What is open above the entries, what the pointer leads to included. */
  readonly #frames: Frame[] = [];
  /** Brackets open inside a value that is passed over or kept. */
  #depth = 0;
  #inString = false;
  #escaped = false;
  /** The string that is read is the name of a member. */
  #inKey = false;
  /** A value has begun that is not at its end. */
  #inValue = false;
  /** It is an entry, or the name of a member: its bytes are kept. */
  #keeps = false;
  /** A member of what it leads to is a list, and its first element is not known yet. */
  #maybeGroup = false;
  #parts: Uint8Array[] = [];
  #bytes = 0;

  /**
   * @param pointer a JSON Pointer (RFC 6901), '' = the whole text
   * @param maxBytes of the longest entry that is read
   */
  constructor(pointer: string, maxBytes: number) {
    this.#names = pointerNames(pointer);
    this.#maxBytes = maxBytes;
  }

  /** Reads on, and gives the entries that are complete now. Throws a SyntaxError where the brackets do not fit. */
  *write(bytes: Uint8Array): Generator<JsonEntry> {
    let from = 0;
    for (let at = 0; at < bytes.length && !this.closed; at++) {
      const byte = bytes[at]!;
      if (this.#inString) {
        if (this.#escaped) this.#escaped = false;
        else if (byte === BACKSLASH) this.#escaped = true;
        else if (byte === QUOTE) {
          this.#inString = false;
          if (this.#inKey) this.#endKey(bytes.subarray(from, at + 1));
          else if (this.#depth === 0) yield* this.#endValue(bytes.subarray(from, at + 1));
        }
        continue;
      }
      if (this.#maybeGroup) {
        if (isSpace(byte)) continue;
        this.#maybeGroup = false;
        if (byte === OPEN_BRACE) {
          // A list of objects: each of them is an entry, and the member's name their group.
          const { key } = this.#frames.at(-1)!;
          this.#forget();
          this.#frames.push({ isObject: false, wantsKey: false, key: null, index: 0, group: key });
        } else this.#depth = 1;
      }
      if (this.#depth > 0) {
        if (byte === QUOTE) this.#inString = true;
        else if (byte === OPEN_BRACE || byte === OPEN_BRACKET) this.#depth++;
        else if ((byte === CLOSE_BRACE || byte === CLOSE_BRACKET) && --this.#depth === 0)
          yield* this.#endValue(bytes.subarray(from, at + 1));
        continue;
      }
      if (isSpace(byte)) {
        // A number or a word ends here, should nothing else end it.
        if (this.#inValue) yield* this.#endValue(bytes.subarray(from, at));
        continue;
      }
      const frame = this.#frames.at(-1);
      if (byte === COMMA || byte === CLOSE_BRACE || byte === CLOSE_BRACKET) {
        if (frame === undefined) throw new SyntaxError('a comma or a bracket stands where nothing is open');
        if (this.#inValue) yield* this.#endValue(bytes.subarray(from, at));
        if (byte === COMMA) {
          frame.index++;
          frame.wantsKey = frame.isObject;
        } else this.#close(frame, byte);
        continue;
      }
      if (byte === COLON) {
        if (!frame?.isObject) throw new SyntaxError('a colon stands outside an object');
        frame.wantsKey = false;
        continue;
      }
      if (this.#inValue) continue;
      if (frame?.wantsKey) {
        if (byte !== QUOTE) throw new SyntaxError('a member has no name');
        [this.#inKey, this.#inString, this.#keeps] = [true, true, true];
        from = at;
        continue;
      }
      if (byte === OPEN_BRACE || byte === OPEN_BRACKET) {
        if (this.#leadsOn()) {
          const isObject = byte === OPEN_BRACE;
          this.#frames.push({ isObject, wantsKey: isObject, key: null, index: 0, group: null });
          if (this.#frames.length > this.#names.length) this.found = true;
          continue;
        }
        from = this.#begin(at);
        const mayGroup = byte === OPEN_BRACKET && this.#keeps && frame!.isObject && frame!.group === null;
        if (mayGroup) this.#maybeGroup = true;
        else this.#depth = 1;
        continue;
      }
      from = this.#begin(at);
      if (byte === QUOTE) this.#inString = true;
    }
    if (this.#keeps && !this.closed && (this.#inValue || this.#inKey)) this.#keep(bytes.subarray(from));
  }

  /** Whether the value that begins is on the way that the pointer leads, or its end. */
  #leadsOn(): boolean {
    const depth = this.#frames.length;
    if (depth > this.#names.length) return false;
    return this.#frames.every(({ isObject, key, index }, i) => this.#names[i] === (isObject ? key : String(index)));
  }

  #begin(at: number): number {
    this.#inValue = true;
    const { length } = this.#frames;
    this.#keeps = this.found && length > this.#names.length;
    return at;
  }

  #keep(part: Uint8Array): void {
    this.#bytes += part.length;
    if (this.#bytes > this.#maxBytes) this.#parts = [];
    // A copy: whoever writes may fill the same memory again.
    else if (part.length > 0) this.#parts.push(part.slice());
  }

  #take(last: Uint8Array): string | null {
    this.#keep(last);
    const text = this.#bytes > this.#maxBytes ? null : decoded(this.#parts);
    this.#forget();
    return text;
  }

  #forget(): void {
    this.#parts = [];
    [this.#bytes, this.#inValue, this.#keeps, this.#inKey] = [0, false, false, false];
  }

  #endKey(last: Uint8Array): void {
    const text = this.#take(last);
    this.#frames.at(-1)!.key = text === null ? null : (JSON.parse(text) as string);
  }

  *#endValue(last: Uint8Array): Generator<JsonEntry> {
    const frame = this.#frames.at(-1);
    if (!this.#keeps) return this.#forget();
    const text = this.#take(last);
    if (frame !== undefined) yield { key: frame.isObject ? frame.key : null, group: frame.group, text };
  }

  #close(frame: Frame, byte: number): void {
    if (frame.isObject !== (byte === CLOSE_BRACE)) throw new SyntaxError('brackets do not fit together');
    this.#frames.pop();
    if (this.#frames.length === this.#names.length && this.found && frame.group === null) this.closed = true;
  }
}
