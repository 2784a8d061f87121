type Numbers = Uint8Array | Uint16Array | Uint32Array | Int32Array | Float64Array;
export type NumbersType<T extends Numbers> = {
  new (length: number): T;
  new (buffer: ArrayBuffer, at: number, length: number): T;
  readonly BYTES_PER_ELEMENT: number;
};

/** Below this the C library's heap is the place for it. */
const OWN_PAGES_FROM = 2 ** 20;
const PAGE = 2 ** 16;

/**
 * A typed array of zeros for work that takes much memory for a moment. From a megabyte on it stands on pages of its own
 * (those of a WebAssembly memory, which no code is ever loaded into), so that they go back to the system with it. On
 * the heap of the C library arrays of a few megabytes leave holes, which stay with the process: it grew by some with
 * every index that was built.
 */
export function room<T extends Numbers>(Type: NumbersType<T>, length: number): T {
  const bytes = length * Type.BYTES_PER_ELEMENT;
  const pages = bytes < OWN_PAGES_FROM ? null : ownPages(Math.ceil(bytes / PAGE));
  return pages === null ? new Type(length) : new Type(pages, 0, length);
}

/** Null where the system has no addresses left for it. */
function ownPages(pages: number): ArrayBuffer | null {
  try {
    return new WebAssembly.Memory({ initial: pages, maximum: pages }).buffer;
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}
