const decoder = new TextDecoder();

/** Memory of its own for each text would cost more than decoding it. */
const copied = new Uint8Array(65_536);

/** UTF-8 as text, out of shared memory too: TextDecoder refuses that, so the bytes are copied first. */
export function decodedText(bytes: Uint8Array): string {
  if (bytes.buffer instanceof ArrayBuffer) return decoder.decode(bytes);
  if (bytes.length > copied.length) return decoder.decode(bytes.slice());
  copied.set(bytes);
  return decoder.decode(copied.subarray(0, bytes.length));
}
