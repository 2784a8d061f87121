/**
 * The flat buffer a segment lives in: the same bytes on disk, in memory and over the wire.
 *
 *   header (64 bytes) · section table (32 bytes a section) · sections, each on an 8-byte boundary
 *
 * All numbers are little-endian. The full layout is written down in docs/segment-format.md.
 */

export const MAGIC = 0x53435559; // "YUCS"
export const FORMAT_VERSION = 5;
const HEADER_BYTES = 64;
const ENTRY_BYTES = 32;

/** Element types by their code in the section table. */
const TYPES = [Uint8Array, Uint16Array, Uint32Array, Float64Array, Int32Array] as const;

type SectionConstructor = new (buffer: ArrayBufferLike, offset: number, length: number) => SectionArray;
export type SectionArray = Uint8Array | Uint16Array | Uint32Array | Float64Array | Int32Array;

/**
 * What each section holds. `part` in the table tells apart sections of one kind (one a column, one a position field).
 */
export const Section = {
  Meta: 1,
  VersionIds: 2,
  Orders: 3,
  KeyStarts: 4,
  KeyBytes: 5,
  RecordStarts: 6,
  RecordBytes: 7,
  TrieLabels: 10,
  TrieEnds: 11,
  TrieFirsts: 12,
  TermLengths: 13,
  GroupStarts: 14,
  GroupFields: 15,
  GroupPosts: 16,
  PostDocs: 17,
  PartedGroups: 25,
  ClassStarts: 26,
  PairWords: 27,
  PairStarts: 28,
  PairPlaces: 29,
  KeyTable: 8,
  ForwardStarts: 18,
  Forward: 19,
  StemLabels: 20,
  StemEnds: 21,
  StemFirsts: 22,
  StemStarts: 23,
  StemTerms: 24,
  ValueStarts: 30,
  ValueBytes: 31,
  ValueTypes: 32,
  ValueDocStarts: 33,
  ValueDocs: 34,
  TextHashes: 37,
  TextHashDocs: 38,
  LabelStarts: 35,
  LabelBytes: 36,
  NumberDocStarts: 40,
  Numbers: 41,
  NumberOthers: 42,
  /** Of the dictionary. */
  WordEnds: 43,
  GeoLats: 50,
  GeoLngs: 51,
  GeoTree: 52,
} as const;

export interface SectionInput {
  kind: number;
  part?: number;
  data: SectionArray;
}

/** A buffer that is not a whole, undamaged segment of this version. */
export class SegmentFormatError extends Error {
  override name = 'SegmentFormatError';
}

// Taken once: wherever code runs in a context of its own, as tests do, each look at a global costs more than the
// multiplication.
const { imul } = Math;

/** xxHash32 (Collet's specification, seed 0) over whole 32-bit words; the buffer is padded to them. */
export function checksum(words: Uint32Array, from = 0): number {
  const P1 = 0x9e3779b1,
    P2 = 0x85ebca77,
    P3 = 0xc2b2ae3d,
    P4 = 0x27d4eb2f;
  const rotl = (x: number, r: number): number => (x << r) | (x >>> (32 - r));
  const end = words.length;
  let i = from;
  let hash: number;
  if (end - i >= 4) {
    let a = (P1 + P2) | 0,
      b = P2 | 0,
      c = 0,
      d = -P1 | 0;
    for (; i + 4 <= end; i += 4) {
      a = imul(rotl((a + imul(words[i]!, P2)) | 0, 13), P1);
      b = imul(rotl((b + imul(words[i + 1]!, P2)) | 0, 13), P1);
      c = imul(rotl((c + imul(words[i + 2]!, P2)) | 0, 13), P1);
      d = imul(rotl((d + imul(words[i + 3]!, P2)) | 0, 13), P1);
    }
    hash = (rotl(a, 1) + rotl(b, 7) + rotl(c, 12) + rotl(d, 18)) | 0;
  } else {
    hash = 0x165667b1;
  }
  hash = (hash + (end - from) * 4) | 0;
  for (; i < end; i++) hash = imul(rotl((hash + imul(words[i]!, P3)) | 0, 17), P4);
  hash = imul(hash ^ (hash >>> 15), P2);
  hash = imul(hash ^ (hash >>> 13), P3);
  return (hash ^ (hash >>> 16)) >>> 0;
}

const aligned = (bytes: number): number => Math.ceil(bytes / 8) * 8;

/** Lays sections out in one buffer. `allocate` chooses the kind of memory, so that threads can share it. */
export function writeSegment<B extends ArrayBufferLike>(sections: SectionInput[], allocate: (bytes: number) => B): B {
  let offset = aligned(HEADER_BYTES + sections.length * ENTRY_BYTES);
  const offsets = sections.map(({ data }) => {
    const at = offset;
    offset = aligned(offset + data.byteLength);
    return at;
  });
  const buffer = allocate(offset);
  const view = new DataView(buffer);
  sections.forEach(({ kind, part = 0, data }, i) => {
    const entry = HEADER_BYTES + i * ENTRY_BYTES;
    view.setUint32(entry, kind, true);
    view.setUint32(entry + 4, part, true);
    view.setUint32(
      entry + 8,
      TYPES.findIndex((Type) => data instanceof Type),
      true,
    );
    view.setFloat64(entry + 16, offsets[i]!, true);
    view.setFloat64(entry + 24, data.byteLength, true);
    new Uint8Array(buffer, offsets[i], data.byteLength).set(
      new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
    );
  });
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, FORMAT_VERSION, true);
  view.setUint32(8, sections.length, true);
  view.setFloat64(16, offset, true);
  view.setUint32(24, checksum(new Uint32Array(buffer), HEADER_BYTES / 4), true);
  return buffer;
}

/** A row of the section table. */
interface SectionEntry {
  kind: number;
  part: number;
  Type: SectionConstructor & { BYTES_PER_ELEMENT: number };
  /** Where the section lies in the buffer, and how long it is. */
  offset: number;
  bytes: number;
}

/** Bytes of header and section table of so many sections. */
export const headBytes = (sections: number): number => aligned(HEADER_BYTES + sections * ENTRY_BYTES);

/** Reads the section table; of the buffer, header and table have to be there. Throws a SegmentFormatError. */
export function sectionTable(view: DataView): SectionEntry[] {
  const [count, whole] = [view.getUint32(8, true), view.getFloat64(16, true)];
  if (HEADER_BYTES + count * ENTRY_BYTES > view.byteLength) throw new SegmentFormatError('section table is cut');
  return Array.from({ length: count }, (_, i) => {
    const entry = HEADER_BYTES + i * ENTRY_BYTES;
    const Type = TYPES[view.getUint32(entry + 8, true)];
    if (Type === undefined) throw new SegmentFormatError('a section has an unknown type');
    const offset = view.getFloat64(entry + 16, true);
    const bytes = view.getFloat64(entry + 24, true);
    if (!(offset >= 0 && bytes >= 0 && offset + bytes <= whole))
      throw new SegmentFormatError('a section lies outside the buffer');
    return { kind: view.getUint32(entry, true), part: view.getUint32(entry + 4, true), Type, offset, bytes };
  });
}

/** How long a segment is, by its header. */
export const bytesOf = (view: DataView): number => view.getFloat64(16, true);

/** Opens a buffer: validates header and checksum, and returns a look-up of typed views. Nothing is copied. */
export function readSegment(
  buffer: ArrayBufferLike,
  { verify = true }: { verify?: boolean } = {},
): (kind: number, part?: number) => SectionArray {
  if (new Uint8Array(new Uint16Array([1]).buffer)[0] !== 1)
    throw new SegmentFormatError('needs a little-endian machine');
  if (buffer.byteLength < HEADER_BYTES) throw new SegmentFormatError('shorter than a header');
  const view = new DataView(buffer);
  if (view.getUint32(0, true) !== MAGIC) throw new SegmentFormatError('not a segment');
  const version = view.getUint32(4, true);
  if (version !== FORMAT_VERSION) throw new SegmentFormatError(`format version ${version}, not ${FORMAT_VERSION}`);
  if (view.getFloat64(16, true) !== buffer.byteLength) throw new SegmentFormatError('cut short or too long');
  if (verify && view.getUint32(24, true) !== checksum(new Uint32Array(buffer), HEADER_BYTES / 4)) {
    throw new SegmentFormatError('checksum does not fit');
  }
  const table = new Map<string, SectionArray>();
  for (const { kind, part, Type, offset, bytes } of sectionTable(view))
    table.set(`${kind}/${part}`, new Type(buffer, offset, bytes / Type.BYTES_PER_ELEMENT));
  return (kind, part = 0) => {
    const data = table.get(`${kind}/${part}`);
    if (data === undefined) throw new SegmentFormatError(`section ${kind}/${part} is missing`);
    return data;
  };
}
