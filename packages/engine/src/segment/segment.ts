import type { RecordJson } from '@yucca/contract';
import type { SegmentMeta } from './builder.ts';
import { readSegment, Section } from './format.ts';
import type { Trie } from './trie.ts';

export interface FacetColumnView {
  valueStarts: Uint32Array;
  valueBytes: Uint8Array;
  docStarts: Uint32Array;
  docValues: Uint32Array;
}

const decoder = new TextDecoder();

/** Text out of shared memory: TextDecoder refuses it, so the bytes are copied first. */
function decode(bytes: Uint8Array): string {
  return decoder.decode(bytes.buffer instanceof ArrayBuffer ? bytes : bytes.slice());
}

/** An opened segment: typed views into one flat buffer. Opening reads the section table and parses nothing else. */
export class Segment {
  readonly meta: SegmentMeta;
  readonly bytes: number;
  readonly rids: Float64Array;
  readonly orders: Float64Array;
  readonly trie: Trie;
  /** Letters of each word, by word number. */
  readonly termLengths: Uint8Array;
  /** Postings of word `t` stand at `[postStarts[t], postStarts[t + 1])`, ascending by document, then field. */
  readonly postStarts: Uint32Array;
  readonly postDocs: Uint32Array;
  /** `field << 10 | position of the first occurrence`. */
  readonly postPlaces: Uint16Array;
  /** Words in a field of a document (at most 255), at `doc × fields + field`. */
  readonly fieldWords: Uint8Array;
  readonly facets: FacetColumnView[];
  readonly #keyStarts: Uint32Array;
  readonly #keyBytes: Uint8Array;
  readonly #recordStarts: Uint32Array;
  readonly #recordBytes: Uint8Array;
  readonly #facetTexts: string[][] = [];

  /** Opens a buffer. Throws a SegmentFormatError when it is damaged; `verify: false` trusts the bytes. */
  constructor(buffer: ArrayBufferLike, options?: { verify?: boolean }) {
    const section = readSegment(buffer, options);
    const u8 = (kind: number, part?: number): Uint8Array => section(kind, part) as Uint8Array;
    const u32 = (kind: number, part?: number): Uint32Array => section(kind, part) as Uint32Array;
    this.bytes = buffer.byteLength;
    this.meta = JSON.parse(decode(u8(Section.Meta))) as SegmentMeta;
    this.rids = section(Section.Rids) as Float64Array;
    this.orders = section(Section.Orders) as Float64Array;
    this.trie = {
      labels: section(Section.TrieLabels) as Uint16Array,
      ends: u32(Section.TrieEnds),
      firsts: u32(Section.TrieFirsts),
    };
    this.termLengths = u8(Section.TermLengths);
    this.postStarts = u32(Section.PostStarts);
    this.postDocs = u32(Section.PostDocs);
    this.postPlaces = section(Section.PostPlaces) as Uint16Array;
    this.fieldWords = u8(Section.FieldWords);
    this.facets = this.meta.facetFields.map((_, part) => ({
      valueStarts: u32(Section.FacetValueStarts, part),
      valueBytes: u8(Section.FacetValueBytes, part),
      docStarts: u32(Section.FacetDocStarts, part),
      docValues: u32(Section.FacetDocValues, part),
    }));
    this.#keyStarts = u32(Section.KeyStarts);
    this.#keyBytes = u8(Section.KeyBytes);
    this.#recordStarts = u32(Section.RecordStarts);
    this.#recordBytes = u8(Section.RecordBytes);
  }

  get docs(): number {
    return this.meta.docs;
  }

  key(doc: number): string {
    return decode(this.#keyBytes.subarray(this.#keyStarts[doc], this.#keyStarts[doc + 1]));
  }

  record(doc: number): RecordJson {
    return JSON.parse(
      decode(this.#recordBytes.subarray(this.#recordStarts[doc], this.#recordStarts[doc + 1])),
    ) as RecordJson;
  }

  /** Decoded the first time it is asked for: the values of a facet are few, and every query lists them. */
  facetValue(facet: number, value: number): string {
    const texts = (this.#facetTexts[facet] ??= []);
    let text = texts[value];
    if (text === undefined) {
      const { valueStarts, valueBytes } = this.facets[facet]!;
      text = texts[value] = decode(valueBytes.subarray(valueStarts[value], valueStarts[value + 1]));
    }
    return text;
  }

  /** The document that holds version `rid` of a record, or -1. */
  docOfRid(rid: number): number {
    let low = 0;
    let high = this.rids.length - 1;
    while (low <= high) {
      const middle = (low + high) >>> 1;
      const at = this.rids[middle]!;
      if (at === rid) return middle;
      if (at < rid) low = middle + 1;
      else high = middle - 1;
    }
    return -1;
  }
}
