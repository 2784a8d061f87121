import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { loadPlants, Server, somePlants } from '../src/server';

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

/**
 * Lighthouse simulates a phone by slowing the machine down four times, which is meant for a fast desktop: one of this
 * benchmark index, as its report calls the speed it has measured.
 */
const MEANT_FOR = 2000;
const SLOWDOWN = 4;

/**
 * Runs Lighthouse once, as a phone on its simulated slow line; scores from 0 to 100, and how fast the machine was.
 * `slowdown` is how many times slower the phone is. Undefined if the browser did not record the page.
 */
async function scores(run: number, slowdown: number): Promise<{ scores: Scores; index: number } | undefined> {
  const file = path.join(folder, `${run}.json`);
  const flags = `--headless --no-sandbox --user-data-dir=${path.join(folder, `profile-${run}`)}`;
  const args = [
    '--quiet',
    '--no-enable-error-reporting',
    '--output=json',
    `--throttling.cpuSlowdownMultiplier=${slowdown.toFixed(2)}`,
    `--output-path=${file}`,
    `--chrome-flags=${flags}`,
  ];
  const env = { ...process.env, CHROME_PATH: process.env.CHROME_PATH ?? '/usr/bin/chromium' };
  const ran = await promisify(execFile)(process.execPath, [LIGHTHOUSE, `${server.base}/s/plants`, ...args], { env })
    .then(() => true)
    // On a busy machine a browser's trace may lack its beginning, which says nothing of the page.
    .catch((error: Error) => {
      if (/NO_NAVSTART|NO_FCP|TRACING/.test(error.message)) return false;
      throw error;
    });
  if (!ran) return undefined;
  const report = JSON.parse(readFileSync(file, 'utf8')) as {
    categories: Record<string, { score: number }>;
    environment: { benchmarkIndex: number };
  };
  const found = Object.entries(report.categories).map(([name, { score }]) => [name, Math.round(100 * score)]);
  return { scores: Object.fromEntries(found) as Scores, index: report.environment.benchmarkIndex };
}

const BAR = 95;
/**
 * Other work on the machine lowers the score of performance, nothing raises it: so the best of some runs is the truest.
 */
const MOST_RUNS = 6;

test('a hosted page: what Lighthouse makes of it', async () => {
  let best = 0;
  let slowdown = SLOWDOWN;
  for (let run = 0; run < MOST_RUNS && best < BAR; run++) {
    const outcome = await scores(run, slowdown);
    if (!outcome) continue;
    const { scores: found, index } = outcome;
    expect([found.accessibility, found['best-practices'], found.seo]).toEqual([100, 100, 100]);
    best = Math.max(best, found.performance);
    // The phone shall be the same one wherever this runs: a machine half as fast is slowed down half as much.
    slowdown = Math.min(SLOWDOWN, Math.max(1, (SLOWDOWN * index) / MEANT_FOR));
  }
  expect(best).toBeGreaterThanOrEqual(BAR);
});
