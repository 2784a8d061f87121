import { unzipSync } from 'fflate';

/** The files of a ZIP archive that comes in pieces, by name. */
export async function unpacked(pieces: AsyncIterable<string | Uint8Array>): Promise<Record<string, Uint8Array>> {
  const parts: Uint8Array[] = [];
  for await (const piece of pieces) parts.push(Buffer.from(piece as Uint8Array));
  return unzipSync(Buffer.concat(parts));
}
