import { BACKSLASH, CLOSE_BRACE, CLOSE_BRACKET, COMMA, OPEN_BRACE, OPEN_BRACKET, QUOTE } from './json-signs.ts';
import { leavesBelow, type RecordJson, type VisitLeaf } from '@yucca/contract';

/** A member of a record that a path may lead into: its name as it is written, and the rest of the path. */
interface Entrance {
  name: Uint8Array;
  rest: string;
}

/** A member that the path may lead into, by where its name and its value begin and end. */
type VisitMember = (nameAt: number, nameEnd: number, valueAt: number, end: number, entrance: Entrance) => void;

/**
 * Reads one field out of records that stand as JSON (RFC 8259, UTF-8, as JSON.stringify writes it) without reading the
 * rest of them: whatever is not on the path is passed over sign by sign. A record of 230 bytes takes one and a half
 * microseconds so, with its text decoded.
 */
export class MemberReader {
  readonly #bytes: Uint8Array;
  readonly #decode: (from: number, to: number) => string;
  readonly #entrances: Entrance[];

  /** `decode` makes a part of the bytes a text. */
  constructor(bytes: Uint8Array, path: string, decode: (from: number, to: number) => string) {
    this.#bytes = bytes;
    this.#decode = decode;
    const encoder = new TextEncoder();
    // Like leavesAt, which finds nothing under no name.
    const heads = path === '' ? [] : [path];
    for (let dot = path.indexOf('.'); dot !== -1; dot = path.indexOf('.', dot + 1)) heads.push(path.slice(0, dot));
    this.#entrances = heads.map((head) => ({
      name: encoder.encode(JSON.stringify(head)),
      rest: path.slice(head.length + 1),
    }));
  }

  /** Visits the scalars at the path in the record that stands from one byte to another; in what order is left open. */
  read(from: number, to: number, visit: VisitLeaf): void {
    this.#eachMember(from, to, (_nameAt, _nameEnd, valueAt, end, { rest }) => this.#visit(valueAt, end, rest, visit));
  }

  /** The members of a record that the path may lead into, as [name, value]: they alone are parsed. */
  members(from: number, to: number): [string, RecordJson[string]][] {
    const found: [string, RecordJson[string]][] = [];
    const parsed = (at: number, end: number): unknown => JSON.parse(this.#decode(at, end));
    this.#eachMember(from, to, (nameAt, nameEnd, valueAt, end) =>
      found.push([parsed(nameAt, nameEnd) as string, parsed(valueAt, end) as RecordJson[string]]),
    );
    return found;
  }

  #eachMember(from: number, to: number, visit: VisitMember): void {
    const bytes = this.#bytes;
    // Past the brace, or the comma before a member.
    let at = from + 1;
    while (at < to && bytes[at] === QUOTE) {
      const nameAt = at;
      const nameEnd = endOfString(bytes, at);
      const entrance = this.#entranceAt(nameAt, nameEnd);
      const valueAt = nameEnd + 1;
      at = endOfValue(bytes, valueAt);
      if (entrance !== null) visit(nameAt, nameEnd, valueAt, at, entrance);
      at++;
    }
  }

  #entranceAt(from: number, to: number): Entrance | null {
    for (const entrance of this.#entrances) {
      const { name } = entrance;
      if (name.length !== to - from) continue;
      let i = 0;
      while (i < name.length && name[i] === this.#bytes[from + i]) i++;
      if (i === name.length) return entrance;
    }
    return null;
  }

  #visit(from: number, to: number, rest: string, visit: VisitLeaf): void {
    const isPlain = this.#bytes[from] === QUOTE && !holds(this.#bytes, BACKSLASH, from, to);
    if (isPlain && rest === '') return visit(this.#decode(from + 1, to - 1), '');
    leavesBelow(JSON.parse(this.#decode(from, to)), rest, visit);
  }
}

function holds(bytes: Uint8Array, sign: number, from: number, to: number): boolean {
  for (let at = from; at < to; at++) if (bytes[at] === sign) return true;
  return false;
}

/**
 * Where the string ends that begins with the quotation mark at a position; past the end of a text that is cut short.
 */
function endOfString(bytes: Uint8Array, at: number): number {
  for (;;) {
    const sign = bytes[++at];
    if (sign === QUOTE || sign === undefined) return at + 1;
    if (sign === BACKSLASH) at++;
  }
}

/** Where the value ends that begins at a position: at the comma or brace after it. */
function endOfValue(bytes: Uint8Array, at: number): number {
  if (bytes[at] === QUOTE) return endOfString(bytes, at);
  for (let depth = 0; ; at++) {
    const sign = bytes[at];
    if (sign === undefined) return at;
    if (sign === QUOTE) at = endOfString(bytes, at) - 1;
    else if (sign === OPEN_BRACE || sign === OPEN_BRACKET) depth++;
    else if (depth === 0 && (sign === COMMA || sign === CLOSE_BRACE)) return at;
    else if (sign === CLOSE_BRACE || sign === CLOSE_BRACKET) depth--;
  }
}
