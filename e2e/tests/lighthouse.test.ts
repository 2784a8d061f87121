import { execFile } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { loadPlants, Server, somePlants } from '../src/server';

const LIGHTHOUSE = path.join(__dirname, '../../node_modules/lighthouse/cli/index.js');
const folder = mkdtempSync(path.join(tmpdir(), 'yucca-lighthouse-'));
let server: Server;

beforeAll(async () => {
  server = await new Server().start();
  const plants = somePlants().map((plant, i) => ({ ...plant, rating: 1 + (i % 5) }));
  await load('plants', plants);
  await photograph(path.join(server.dataDir, 'files'));
  await load(
    'pictures',
    plants.slice(0, PICTURES).map((plant, i) => ({ ...plant, picture: `/files/${i}.jpg` })),
  );
});
afterAll(async () => {
  await server.leave();
  rmSync(folder, { recursive: true, force: true });
});

/** One for each result of a page. */
const PICTURES = 24;

async function load(name: string, plants: object[]): Promise<void> {
  await loadPlants(server, name, plants);
  const facets = [
    { name: 'colour', field: 'colour' },
    { name: 'rating', field: 'rating', kind: 'numbers' },
  ];
  await server.api('PATCH', `/collections/${name}/tuning/draft`, { facets });
  await server.api('POST', `/collections/${name}/tuning/publish?wait=true`, {});
}

/** Photographs as a shop has them: larger than they are shown, and each with a grain of its own. */
async function photograph(folder: string): Promise<void> {
  mkdirSync(folder, { recursive: true });
  for (let i = 0; i < PICTURES; i++) {
    const noise = { type: 'gaussian', mean: 110 + 3 * i, sigma: 30 } as const;
    await sharp({ create: { width: 640, height: 480, channels: 3, background: '#8a6', noise } })
      .jpeg({ quality: 80 })
      .toFile(path.join(folder, `${i}.jpg`));
  }
}

type Scores = Record<'performance' | 'accessibility' | 'best-practices' | 'seo', number>;

/**
 * Lighthouse simulates a phone by slowing the machine down four times, which is meant for a fast desktop: one of this
 * benchmark index, as its report calls the speed it has measured.
 */
const MEANT_FOR = 2000;
const SLOWDOWN = 4;

/**
 * Runs Lighthouse once, as a phone on its simulated slow line; scores from 0 to 100, and how fast the machine was.
 * `slowdown` is how many times slower the phone is; `more`: options. Undefined if the browser did not record the page.
 */
async function scores(
  page: string,
  run: number,
  slowdown: number,
  more: string[],
): Promise<{ scores: Scores; index: number } | undefined> {
  const file = path.join(folder, `${page}-${run}.json`);
  const flags = `--headless --no-sandbox --user-data-dir=${path.join(folder, `profile-${page}-${run}`)}`;
  const args = [
    '--quiet',
    '--no-enable-error-reporting',
    '--output=json',
    `--throttling.cpuSlowdownMultiplier=${slowdown.toFixed(2)}`,
    `--output-path=${file}`,
    `--chrome-flags=${flags}`,
    ...more,
  ];
  const env = { ...process.env, CHROME_PATH: process.env.CHROME_PATH ?? '/usr/bin/chromium' };
  const ran = await promisify(execFile)(process.execPath, [LIGHTHOUSE, `${server.base}/s/${page}`, ...args], { env })
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
const MOST_RUNS = 15;
/** The other scores do not depend on the machine: they are found once. */
const SPEED_ALONE = ['--only-categories=performance'];

test.each(['plants', 'pictures'])('a hosted page, %s: what Lighthouse makes of it', async (page) => {
  let best = 0;
  let slowdown = SLOWDOWN;
  const indexes: number[] = [];
  for (let run = 0; run < MOST_RUNS && best < BAR; run++) {
    const outcome = await scores(page, run, slowdown, indexes.length === 0 ? [] : SPEED_ALONE);
    if (!outcome) continue;
    const { scores: found, index } = outcome;
    if (indexes.length === 0)
      expect([found.accessibility, found['best-practices'], found.seo]).toEqual([100, 100, 100]);
    best = Math.max(best, found.performance);
    // The phone shall be the same one wherever this runs: a machine half as fast is slowed down half as much. One
    // index tells little where other work comes and goes.
    indexes.push(index);
    const speed = indexes.reduce((sum, one) => sum + one, 0) / indexes.length;
    slowdown = Math.min(SLOWDOWN, Math.max(1, (SLOWDOWN * speed) / MEANT_FOR));
  }
  expect(best).toBeGreaterThanOrEqual(BAR);
});

test('the HTML of a page with pictures is no fifth larger than before pages were designed', async () => {
  const page = await (await fetch(`${server.base}/s/pictures`)).text();
  expect(page.match(/data-part="card"/g)).toHaveLength(PICTURES);
  expect(page).toContain('?width=320 320w');
  // 50,062 bytes then, and a fifth.
  expect(Buffer.byteLength(page)).toBeLessThan(60_000);
});
