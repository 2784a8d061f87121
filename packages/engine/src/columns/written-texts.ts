import { GrowingArray } from '../bytes/growing-array.ts';

/** Texts as one run of UTF-8 bytes; text `i` stands at `[starts[i], starts[i + 1])`. */
export interface WrittenTexts {
  starts: Uint32Array;
  bytes: Uint8Array;
}

const encoder = new TextEncoder();

/** Writes texts out. */
export function writeTexts(texts: readonly string[]): WrittenTexts {
  const starts = new Uint32Array(texts.length + 1);
  const bytes = new GrowingArray(Uint8Array);
  texts.forEach((text, i) => {
    bytes.append(encoder.encode(text));
    starts[i + 1] = bytes.length;
  });
  return { starts, bytes: bytes.view() };
}

/** Whether text `i` is made of the bytes `[from, to)` of others. */
export function isWritten(
  { starts, bytes }: WrittenTexts,
  i: number,
  other: Uint8Array,
  from: number,
  to: number,
): boolean {
  const start = starts[i]!;
  if (starts[i + 1]! - start !== to - from) return false;
  for (let at = from; at < to; at++) if (bytes[start + at - from] !== other[at]) return false;
  return true;
}
