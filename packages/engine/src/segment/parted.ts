import type { RecordJson } from '@yucca/contract';
import { bytesOf, headBytes, Section, SegmentFormatError, sectionTable } from '../bytes/flat-buffer.ts';
import { packDifferences, unpackDifferences } from '../bytes/var-ints.ts';
import { Segment } from './segment.ts';

/** A segment on its way to where it is searched: the index in one piece, the records in many. */
export interface PartedForm {
  /** Header, section table and all sections but the records; postings as differences. */
  index: Uint8Array;
  /** The JSON of the records, cut between two of them. */
  parts: Uint8Array[];
  /** The first document of each part. */
  firstDocs: number[];
}

/**
 * Takes a segment apart, so that a search can begin before all records are there: what is found needs the index, what
 * is shown a few records. `partBytes`: what a part should have at least, but for the last.
 */
export function partSegment(buffer: ArrayBufferLike, partBytes: number): PartedForm {
  const view = new DataView(buffer);
  const sections = sectionTable(view);
  const pieces: Uint8Array[] = [new Uint8Array(buffer, 0, headBytes(sections.length))];
  let records = new Uint8Array(0);
  let starts = new Uint32Array(0);
  for (const { kind, offset, bytes } of sections) {
    if (kind === Section.RecordBytes) records = new Uint8Array(buffer as ArrayBuffer, offset, bytes);
    else if (kind === Section.PostDocs) {
      const packed = packDifferences(new Uint32Array(buffer, offset, bytes / 4));
      pieces.push(new Uint8Array(Uint32Array.of(packed.length).buffer), packed);
    } else pieces.push(new Uint8Array(buffer, offset, bytes));
    if (kind === Section.RecordStarts) starts = new Uint32Array(buffer as ArrayBuffer, offset, bytes / 4);
  }
  const firstDocs: number[] = [];
  const parts: Uint8Array[] = [];
  for (let doc = 0; doc < starts.length - 1;) {
    let next = doc + 1;
    while (next < starts.length - 1 && starts[next]! - starts[doc]! < partBytes) next++;
    firstDocs.push(doc);
    parts.push(records.slice(starts[doc], starts[next]));
    doc = next;
  }
  return { index: joined(pieces), parts, firstDocs };
}

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/**
 * A segment whose records come later. A record that is not there yet is read as an empty one, and its part is noted as
 * missing: whoever asked fetches that and asks again.
 */
export class PartedSegment extends Segment {
  readonly #buffer: ArrayBuffer;
  readonly #firstDocs: readonly number[];
  readonly #there: Uint8Array;
  readonly #recordsAt: number;
  readonly #starts: Uint32Array;
  /** Parts that were asked for in vain since this was last emptied. */
  readonly missing = new Set<number>();

  /** Puts an index together again. Throws a SegmentFormatError when it is damaged. */
  constructor(index: Uint8Array, firstDocs: readonly number[]) {
    const buffer = restored(index);
    super(buffer, { verify: false });
    const sections = sectionTable(new DataView(buffer));
    const of = (kind: number) => sections.find((section) => section.kind === kind)!;
    const starts = of(Section.RecordStarts);
    this.#buffer = buffer;
    this.#firstDocs = firstDocs;
    this.#there = new Uint8Array(firstDocs.length);
    this.#recordsAt = of(Section.RecordBytes).offset;
    this.#starts = new Uint32Array(buffer, starts.offset, starts.bytes / 4);
  }

  /** Whether all records are there. */
  get isWhole(): boolean {
    return this.#there.every((there) => there === 1);
  }

  hasPart(part: number): boolean {
    return this.#there[part] === 1;
  }

  /** Takes a part of the records in. Throws a SegmentFormatError when it is another one. */
  takePart(part: number, bytes: Uint8Array): void {
    const from = this.#starts[this.#firstDocs[part] ?? -1];
    const to = this.#starts[this.#firstDocs[part + 1] ?? this.docs];
    if (from === undefined || to === undefined || bytes.length !== to - from)
      throw new SegmentFormatError(`part ${part} of the records does not fit`);
    new Uint8Array(this.#buffer).set(bytes, this.#recordsAt + from);
    this.#there[part] = 1;
  }

  override record(doc: number): RecordJson {
    const part = partOf(this.#firstDocs, doc);
    if (this.#there[part] === 1) return super.record(doc);
    this.missing.add(part);
    return {};
  }
}

/** The last part that begins with this document or before it. */
function partOf(firstDocs: readonly number[], doc: number): number {
  let [low, high] = [0, firstDocs.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (firstDocs[middle]! <= doc) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The segment that an index was taken from, with zeros for its records. */
function restored(index: Uint8Array): ArrayBuffer {
  const view = new DataView(index.buffer, index.byteOffset, index.byteLength);
  if (index.length < headBytes(0)) throw new SegmentFormatError('shorter than a header');
  const sections = sectionTable(view);
  const buffer = new ArrayBuffer(bytesOf(view));
  const whole = new Uint8Array(buffer);
  let at = headBytes(sections.length);
  whole.set(index.subarray(0, at));
  const take = (bytes: number): Uint8Array => {
    if (at + bytes > index.length) throw new SegmentFormatError('cut short');
    return index.subarray(at, (at += bytes));
  };
  for (const { kind, offset, bytes } of sections) {
    if (kind === Section.RecordBytes) continue;
    if (kind !== Section.PostDocs) whole.set(take(bytes), offset);
    else {
      // The bytes may lie anywhere in a larger buffer.
      const { buffer: around, byteOffset } = take(4);
      const length = new DataView(around, byteOffset).getUint32(0, true);
      unpackDifferences(take(length), new Uint32Array(buffer, offset, bytes / 4));
    }
  }
  return buffer;
}
