/** How long one way to the first results takes. */
export interface FirstResults {
  /** From the first request until results can be drawn, in milliseconds. */
  ms: number;
  bytes: number;
  requests: number;
}

/** A page to be opened for measuring. */
export interface ToMeasure {
  /** What sends the requests: over a slower line, see `overLine`. */
  fetch: typeof fetch;
  /** The page as the server renders it; its results begin at `mark`. */
  html: string;
  mark: string;
  /** What a page that draws itself asks for, one after the other: its own document, its script, what it shows. */
  chain: readonly string[];
}

/** Reads an answer until `mark` has come, or to its end; returns the bytes of all of it and when the mark was there. */
async function read(response: Response, mark: string | null): Promise<{ bytes: number; markedAt: number | null }> {
  if (!response.ok || response.body === null) throw new Error(`${response.url} answered ${response.status}`);
  const decoder = new TextDecoder();
  const reader = response.body.getReader();
  let [text, bytes, markedAt]: [string, number, number | null] = ['', 0, null];
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return { bytes, markedAt };
    bytes += value.byteLength;
    if (mark === null || markedAt !== null) continue;
    // A mark may lie across two pieces.
    text = text.slice(-mark.length) + decoder.decode(value, { stream: true });
    if (text.includes(mark)) markedAt = performance.now();
  }
}

/**
 * Measures, one after the other, how soon results are there when the server puts them into the page, and when a page
 * fetches its script, what it is made of and its results by itself. Nothing is taken from the browser's cache. The time
 * a browser takes to run the script comes on top of the second.
 */
export async function measureFirstResults({ fetch: send, html, mark, chain }: ToMeasure): Promise<{
  server: FirstResults;
  browser: FirstResults;
}> {
  const from = performance.now();
  const page = await read(await send(html, { cache: 'no-store' }), mark);
  if (page.markedAt === null) throw new Error('The page holds no results to wait for.');
  const server = { ms: page.markedAt - from, bytes: page.bytes, requests: 1 };
  const start = performance.now();
  let bytes = 0;
  for (const address of chain) bytes += (await read(await send(address, { cache: 'no-store' }), null)).bytes;
  return { server, browser: { ms: performance.now() - start, bytes, requests: chain.length } };
}
