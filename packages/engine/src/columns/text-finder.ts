import { fnvOfBytes } from '../bytes/fnv.ts';
import { isWritten } from './written-texts.ts';

const encoder = new TextEncoder();

/**
 * Finds texts among many that stand as one run of UTF-8, without decoding those: by length, then by a hash of their
 * bytes, then by the bytes themselves. Half a million texts take some 10 ms, decoding them 100.
 */
export function findTexts(starts: Uint32Array, bytes: Uint8Array, wanted: ReadonlySet<string>): number[] {
  const byHash = new Map<number, Uint8Array[]>();
  const lengths = new Set<number>();
  for (const text of wanted) {
    const own = encoder.encode(text);
    lengths.add(own.length);
    const hash = fnvOfBytes(own, 0, own.length);
    const same = byHash.get(hash);
    if (same === undefined) byHash.set(hash, [own]);
    else same.push(own);
  }
  const isLength = new Uint8Array(Math.max(0, ...lengths) + 1);
  for (const length of lengths) isLength[length] = 1;
  const found: number[] = [];
  for (let i = 0; i + 1 < starts.length; i++) {
    const [from, to] = [starts[i]!, starts[i + 1]!];
    // Longer than any of them reads undefined.
    if (isLength[to - from] !== 1) continue;
    if (byHash.get(fnvOfBytes(bytes, from, to))?.some((own) => isWritten({ starts, bytes }, i, own, 0, own.length)))
      found.push(i);
  }
  return found;
}
