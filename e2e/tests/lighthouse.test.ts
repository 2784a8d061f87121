import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { loadPlants, Server, somePlants } from '../src/server';

jest.setTimeout(400_000);
const LIGHTHOUSE = path.join(__dirname, '../../node_modules/lighthouse/cli/index.js');
const folder = mkdtempSync(path.join(tmpdir(), 'yucca-lighthouse-'));
let server: Server;

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants());
  await server.api('PATCH', '/collections/plants/tuning/draft', { facets: [{ name: 'colour', field: 'colour' }] });
  await server.api('POST', '/collections/plants/tuning/publish?wait=true', {});
});
afterAll(async () => {
  await server.leave();
  rmSync(folder, { recursive: true, force: true });
});

type Scores = Record<'performance' | 'accessibility' | 'best-practices' | 'seo', number>;

/** Runs Lighthouse once, as a phone on its simulated slow line; scores from 0 to 100. */
async function scores(run: number): Promise<Scores> {
  const file = path.join(folder, `${run}.json`);
  const flags = `--headless --no-sandbox --user-data-dir=${path.join(folder, `profile-${run}`)}`;
  const args = [
    '--quiet',
    '--no-enable-error-reporting',
    '--output=json',
    `--output-path=${file}`,
    `--chrome-flags=${flags}`,
  ];
  await promisify(execFile)(process.execPath, [LIGHTHOUSE, `${server.base}/s/plants`, ...args], {
    env: { ...process.env, CHROME_PATH: process.env.CHROME_PATH ?? '/usr/bin/chromium' },
  });
  const report = JSON.parse(readFileSync(file, 'utf8')) as { categories: Record<string, { score: number }> };
  const scores = Object.entries(report.categories).map(([name, { score }]) => [name, Math.round(100 * score)]);
  return Object.fromEntries(scores) as Scores;
}

const BAR = 95;
/** Other work on the machine lowers the score of performance, nothing raises it: so the best of some runs is the truest. */
const MOST_RUNS = 6;

test('a hosted page: what Lighthouse makes of it', async () => {
  let best = 0;
  for (let run = 0; run < MOST_RUNS && best < BAR; run++) {
    const { performance, accessibility, ...others } = await scores(run);
    expect([accessibility, others['best-practices']]).toEqual([100, 100]);
    best = Math.max(best, performance);
  }
  expect(best).toBeGreaterThanOrEqual(BAR);
});
