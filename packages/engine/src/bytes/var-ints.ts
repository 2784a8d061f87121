/**
 * Numbers of 32 bits as the differences from one to the next, each in as few bytes as it needs: signs folded in
 * (zigzag) and seven bits a byte, the lowest first, as Protocol Buffers write them (Encoding, "Base 128 Varints",
 * "ZigZag"). A list that mostly grows in small steps takes a quarter of its room, and packs better.
 */
export function packDifferences(numbers: Uint32Array): Uint8Array {
  const packed = new Uint8Array(numbers.length * 5);
  let at = 0;
  let last = 0;
  for (const number of numbers) {
    const step = (number - last) | 0;
    let rest = ((step << 1) ^ (step >> 31)) >>> 0;
    last = number;
    for (; rest > 0x7f; rest >>>= 7) packed[at++] = (rest & 0x7f) | 0x80;
    packed[at++] = rest;
  }
  return packed.slice(0, at);
}

/** Fills a list with what packDifferences made of it. */
export function unpackDifferences(packed: Uint8Array, numbers: Uint32Array): void {
  let at = 0;
  let last = 0;
  for (let i = 0; i < numbers.length; i++) {
    let rest = 0;
    for (let shift = 0; ; shift += 7) {
      const byte = packed[at++]!;
      rest |= (byte & 0x7f) << shift;
      if (byte < 0x80) break;
    }
    last = (last + ((rest >>> 1) ^ -(rest & 1))) | 0;
    numbers[i] = last;
  }
}
