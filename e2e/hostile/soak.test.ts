/** Mixed work for long: memory and open files stay flat. */
import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { loadPlants, Server, somePlants } from '../src/server';

/** Half an hour in a long run; a short one sees leaks of every request. */
const SECONDS = Number(process.env.YUCCA_SOAK_SECONDS ?? 30);
/** In a short run heaps of all threads still grow to the size they work at; a long one must be flat. */
const GROWTH = SECONDS < 600 ? { mb: 250, share: 0.4 } : { mb: 60, share: 0.15 };
jest.setTimeout(SECONDS * 1000 + 900_000);
let server: Server;
beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants(3_000));
});
afterAll(() => server.leave());

interface Reading {
  residentMb: number;
  files: number;
  walMb: number;
}

function look(): Reading {
  const status = readFileSync(`/proc/${server.pid}/status`, 'utf8');
  const wal = statSync(path.join(server.dataDir, 'yucca.sqlite-wal'), { throwIfNoEntry: false });
  return {
    residentMb: Math.round(Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024),
    files: readdirSync(`/proc/${server.pid}/fd`).length,
    walMb: Math.round((wal?.size ?? 0) / 1024 / 1024),
  };
}

test(`${SECONDS} s of searches, writes, loads, re-tuning, publishing, exports and pages`, async () => {
  const end = Date.now() + SECONDS * 1000;
  const readings: Reading[] = [];
  const problems: string[] = [];
  const keep = async (step: (n: number) => Promise<Response>): Promise<void> => {
    for (let n = 0; Date.now() < end; n++) {
      const response = await step(n);
      if (response.status >= 500) problems.push(`${response.status} ${await response.text()}`);
      else await response.arrayBuffer();
    }
  };
  const looking = (async () => {
    while (Date.now() < end) {
      await new Promise((resolve) => setTimeout(resolve, (SECONDS * 1000) / 60));
      readings.push(look());
    }
  })();
  const words = ['lavender', 'rose', 'fern', 'mint', 'plant', 'gardn', 'snake pl'];
  await Promise.all([
    looking,
    keep((n) => server.call('GET', `/collections/plants/search?facets=*&q=${words[n % words.length]}`)),
    keep((n) => server.call('GET', `/collections/plants/suggest?q=${words[n % words.length]!.slice(0, 3)}`)),
    keep((n) =>
      server.call('PUT', `/collections/plants/records/P-${n % 900}`, {
        name: `Rose ${n}`,
        colour: 'red',
        price: n % 40,
      }),
    ),
    keep((n) => server.call('POST', '/collections/plants/records?wait=true', somePlants(1_500 + (n % 3)))),
    keep((n) =>
      server.call('PATCH', '/collections/plants/tuning/draft', {
        signalShare: (n % 50) / 100,
        stopWords: [`w${n % 5}`],
      }),
    ),
    keep(async () => {
      await new Promise((resolve) => setTimeout(resolve, 300));
      return server.call('POST', '/collections/plants/tuning/publish', {});
    }),
    keep(() => server.call('GET', '/collections/plants/records?format=ndjson')),
    keep((n) => fetch(`${server.base}/s/plants?q=${words[n % words.length]}`)),
  ]);
  expect(problems).toEqual([]);
  // The first third warms up: code is compiled, caches fill.
  const late = readings.slice(Math.ceil(readings.length / 3));
  const middle = (some: Reading[], of: keyof Reading): number =>
    some.map((one) => one[of]).sort((a, b) => a - b)[some.length >> 1]!;
  const [before, after] = [late.slice(0, late.length >> 1), late.slice(late.length >> 1)];
  const grown = {
    mb: middle(after, 'residentMb') - middle(before, 'residentMb'),
    files: middle(after, 'files') - middle(before, 'files'),
  };
  const shown = late.filter((_, i) => i % 8 === 0);
  const flat = grown.mb <= Math.max(GROWTH.mb, middle(before, 'residentMb') * GROWTH.share) && grown.files <= 10;
  expect({ flat, grown, shown }).toEqual({ flat: true, grown, shown });
  expect(Math.max(...late.map(({ walMb }) => walMb))).toBeLessThan(200);
});
