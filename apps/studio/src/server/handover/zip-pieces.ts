import { strToU8, Zip, ZipDeflate, ZipPassThrough } from 'fflate';
import type { Files } from './targets/target';

/** Bytes of a file that are packed at once: what is made before somebody takes it is never much more. */
const CHUNK = 256 * 1024;

/** What is packed already only takes time. */
const PACKED = /\.(gz|tgz|png|jpe?g|webp)$/;

/** Files as a ZIP archive in a folder of their own, piece by piece as somebody takes them. */
export function* zipPieces(folder: string, files: Files): Generator<Uint8Array> {
  let made: Uint8Array[] = [];
  const zip = new Zip((error, piece) => {
    if (error) throw error;
    made.push(piece);
  });
  function* taken(): Generator<Uint8Array> {
    const pieces = made;
    made = [];
    yield* pieces;
  }
  for (const [name, content] of Object.entries(files)) {
    const path = `${folder}/${name}`;
    const entry = PACKED.test(name) ? new ZipPassThrough(path) : new ZipDeflate(path, { level: 6 });
    zip.add(entry);
    const bytes = typeof content === 'string' ? strToU8(content) : content;
    for (let at = 0; at === 0 || at < bytes.length; at += CHUNK) {
      entry.push(bytes.subarray(at, at + CHUNK), at + CHUNK >= bytes.length);
      yield* taken();
    }
  }
  zip.end();
  yield* taken();
}
