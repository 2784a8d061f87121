/** A folder without a server over a slow line: how soon its first results are there. Nothing runs beside it. */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startBrowser } from '../src/browser';
import { run, Site, takeAway } from '../src/handed-over';
import { Server, somePlants } from '../src/server';

const ROOT = path.join(__dirname, '../..');
const TSX = path.join(ROOT, 'node_modules/tsx/dist/cli.mjs');
/** 9 megabits a second, 165 ms to the server and back. */
const LINE = { offline: false, latency: 165, downloadThroughput: 9e6 / 8, uploadThroughput: 1.5e6 / 8 };
/** Milliseconds that the page takes without the line, where nothing else goes on. */
const USUAL = 600;
const away = mkdtempSync(path.join(tmpdir(), 'yucca-handover-line-'));
let server: Server;
let site: Site;

beforeAll(async () => {
  server = await new Server().start();
  site = await new Site().start();
});
afterAll(async () => {
  site?.stop();
  await server?.leave();
  rmSync(away, { recursive: true, force: true });
});

/** Milliseconds from the navigation to the first card, in a browser that keeps nothing from before. */
async function firstResults(isSlow: boolean): Promise<number> {
  const visitor = await startBrowser();
  try {
    await visitor.sendDevToolsCommand('Network.enable', {});
    if (isSlow) await visitor.sendDevToolsCommand('Network.emulateNetworkConditions', LINE);
    await visitor.get(`${site.base}/`);
    return await visitor.executeAsyncScript<number>(`
      const done = arguments[0];
      const look = () =>
        document.querySelector('yucca-search').shadowRoot?.querySelector('[data-part=card]')
          ? done(performance.now())
          : requestAnimationFrame(look);
      look();`);
  } finally {
    await visitor.quit();
  }
}

/**
 * The line is the same each time; what else the machine does can only add to it, so the best of some counts. A machine
 * that needs longer than usual without the line is forgiven as much as that is, and no more.
 */
async function best(page: string, most: number): Promise<void> {
  const { folder, policy } = await takeAway(server, page, 'static', [], away);
  Object.assign(site, { folder, policy });
  const [slow, fast]: [number[], number[]] = [[], []];
  const own = (): number => Math.max(0, Math.min(...fast) - USUAL);
  while (slow.length < 15 && !(Math.min(...slow) - own() < most)) {
    fast.push(await firstResults(false));
    slow.push(await firstResults(true));
  }
  expect(Math.min(...slow) - own()).toBeLessThan(most);
}

test('the nursery of the demo, 3,000 records: within 1.5 s', async () => {
  await run(process.execPath, [TSX, path.join(ROOT, 'demo/src/make.ts'), server.dataDir], ROOT);
  await run(process.execPath, [TSX, path.join(ROOT, 'demo/src/load.ts'), server.base, server.dataDir], ROOT, {
    YUCCA_ADMIN_KEY: server.adminKey,
  });
  await best('nursery', 1_500);
});

test('50,000 records: within 4 s', async () => {
  await server.api('POST', '/collections', { name: 'many' });
  await server.api('POST', '/collections/many/records?wait=true', somePlants(50_000));
  await best('many', 4_000);
});
