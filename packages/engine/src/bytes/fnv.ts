/** FNV-1a, 32 bits (Fowler, Noll and Vo; RFC 9923): a hash that takes one byte, or any small number, at a time. */

export const FNV_START = 0x811c9dc5;

export const fnvStep = (hash: number, byte: number): number => Math.imul(hash ^ byte, 0x01000193);

/** The hash of some bytes. */
export function fnvOfBytes(bytes: Uint8Array, from: number, to: number): number {
  let hash = FNV_START;
  for (let i = from; i < to; i++) hash = fnvStep(hash, bytes[i]!);
  return hash >>> 0;
}

/** The hash of the UTF-16 units of a text: the lower byte of each, and the upper one where it is not 0. */
export function fnvOfText(text: string): number {
  let hash = FNV_START;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    hash = fnvStep(hash, unit & 0xff);
    if (unit > 0xff) hash = fnvStep(hash, unit >>> 8);
  }
  return hash >>> 0;
}
