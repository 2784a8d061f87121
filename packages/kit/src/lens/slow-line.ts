/** A line between visitor and server, as far as it can be felt. */
export interface Line {
  name: string;
  label: string;
  /** Added to the way there and back, in milliseconds. */
  roundTripMs: number;
  /** What comes through in a second; null = as much as there is. */
  bytesPerS: number | null;
  down?: boolean;
}

/** Lines to try a page on, the fastest first. */
export const LINES: readonly Line[] = [
  { name: 'fast', label: 'as it is', roundTripMs: 0, bytesPerS: null },
  { name: '4g', label: '4G', roundTripMs: 90, bytesPerS: 1_100_000 },
  { name: 'slow-3g', label: 'slow 3G', roundTripMs: 400, bytesPerS: 50_000 },
  { name: 'down', label: 'down', roundTripMs: 0, bytesPerS: null, down: true },
];

function pause(ms: number, signal: AbortSignal | null | undefined): Promise<void> {
  return new Promise((resolve, reject) => {
    const stop = (): void => {
      clearTimeout(timer);
      reject(signal?.reason instanceof Error ? signal.reason : new DOMException('Stopped', 'AbortError'));
    };
    const timer = setTimeout(() => {
      signal?.removeEventListener('abort', stop);
      resolve();
    }, ms);
    if (signal?.aborted) stop();
    else signal?.addEventListener('abort', stop, { once: true });
  });
}

/**
 * A fetch that behaves as over a slower line: answers begin a round trip later and come through no faster than the line
 * lets them. `line` is asked with every request. What the real line costs is on top.
 */
export function overLine(send: typeof fetch, line: () => Line): typeof fetch {
  return async (input, init) => {
    const { roundTripMs, bytesPerS, down = false } = line();
    // What fetch says when there is no line.
    if (down) throw new TypeError('The line is down');
    if (roundTripMs > 0) await pause(roundTripMs, init?.signal);
    const response = await send(input, init);
    if (bytesPerS === null || response.body === null) return response;
    const paced = response.body.pipeThrough(
      new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>({
        async transform(chunk, controller) {
          await pause((1000 * chunk.byteLength) / bytesPerS, init?.signal);
          controller.enqueue(chunk);
        },
      }),
    );
    return new Response(paced, response);
  };
}
