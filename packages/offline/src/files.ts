/** Where files come from: their bytes, unpacked. Rejects with an OfflineError when there are none. */
export type LoadFile = (path: string) => Promise<Uint8Array>;

/** Why search without a server does not work here, as a sentence for whoever is at the page. */
export class OfflineError extends Error {
  override name = 'OfflineError';
}

/** Reads files below an address, each of them packed with gzip (RFC 1952). */
export const filesBelow =
  (base: string): LoadFile =>
  async (path) => {
    const answer = await fetch(new URL(path, base)).catch(() => null);
    if (!answer?.ok) throw new OfflineError(`A file of the search could not be fetched: ${path}.`);
    const unpacked = answer.body!.pipeThrough(new DecompressionStream('gzip'));
    try {
      return new Uint8Array(await new Response(unpacked).arrayBuffer());
    } catch (error) {
      // Cut short on the way, or not what it says.
      if (!(error instanceof TypeError)) throw error;
      throw new OfflineError(`A file of the search is damaged: ${path}.`);
    }
  };
