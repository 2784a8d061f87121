import { measureFirstResults, overLine, type Line } from '../src/lens/index.ts';

const line: Line = { name: 'x', label: 'x', roundTripMs: 40, bytesPerS: 100_000 };
const page = (text: string) => (async () => new Response(text)) as unknown as typeof fetch;

test('an answer takes as long as the line makes it, and arrives whole', async () => {
  const start = performance.now();
  const response = await overLine(page('x'.repeat(10_000)), () => line)('/x');
  const headMs = performance.now() - start;
  expect((await response.text()).length).toBe(10_000);
  const wholeMs = performance.now() - start;
  // 40 ms of way, then 10 kB at 100 kB/s. Timers may be late, never early (but for a millisecond of rounding).
  expect(headMs).toBeGreaterThanOrEqual(39);
  expect(wholeMs - headMs).toBeGreaterThanOrEqual(98);
});

test('first results count from the piece of the page that holds them, wherever it is cut', async () => {
  const pieces = ['<p>head</p><ol data-p', 'art="card">…', 'x'.repeat(5_000)];
  const send = (async (address: string) => {
    if (address !== '/page') return new Response('script');
    return new Response(
      new ReadableStream({
        async start(controller) {
          for (const piece of pieces) {
            controller.enqueue(new TextEncoder().encode(piece));
            await new Promise((resolve) => setTimeout(resolve, 20));
          }
          controller.close();
        },
      }),
    );
  }) as unknown as typeof fetch;
  const ask = { fetch: send, html: '/page', mark: 'data-part="card"', chain: ['/a', '/b'] };
  const { server, browser } = await measureFirstResults(ask);
  expect(server).toMatchObject({ requests: 1, bytes: pieces.join('').length + 2 });
  expect(server.ms).toBeGreaterThanOrEqual(19);
  expect(browser).toMatchObject({ requests: 2, bytes: 12 });
  await expect(measureFirstResults({ ...ask, mark: 'nowhere' })).rejects.toThrow('no results');
});
