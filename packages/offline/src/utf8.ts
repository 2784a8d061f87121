/**
 * Environments of tests that look like a browser often lack what every browser has: the encoder and decoder of UTF-8
 * (WHATWG Encoding), which the engine writes texts with. They run on Node.js, so its own are put in their place. Has to
 * come before the engine.
 */
interface NodeBuffer {
  from: (
    text: string | ArrayBufferLike,
    at?: number,
    length?: number,
  ) => Uint8Array & { write: (text: string) => number };
}
const globals = globalThis as unknown as { Buffer?: NodeBuffer; TextEncoder?: unknown; TextDecoder?: unknown };
const { Buffer: buffers } = globals;

if (buffers) {
  /** The bytes as Node.js sees them; the same memory. */
  const asBuffer = (bytes: Uint8Array): ReturnType<NodeBuffer['from']> =>
    buffers.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);

  globals.TextEncoder ??= class {
    readonly encoding = 'utf-8';
    encode(text = ''): Uint8Array {
      return new Uint8Array(buffers.from(text));
    }
    encodeInto(text: string, room: Uint8Array): { read: number; written: number } {
      const written = asBuffer(room).write(text);
      return { read: String(asBuffer(room.subarray(0, written))).length, written };
    }
  };
  globals.TextDecoder ??= class {
    readonly encoding = 'utf-8';
    constructor(label = 'utf-8') {
      if (!/^utf-?8$/i.test(label))
        throw new RangeError(`This environment of a test reads UTF-8 only, not “${label}”.`);
    }
    decode(bytes: Uint8Array = new Uint8Array()): string {
      return String(asBuffer(bytes)).replace(/^\uFEFF/, '');
    }
  };
}
