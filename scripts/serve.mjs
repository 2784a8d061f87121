// Runs the studio: `build`, `start` (a built app) or `dev`. Host, port and data folder come from the environment.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const studio = path.join(root, 'apps/studio');
const [command = 'start'] = process.argv.slice(2);

/** The kit as a package of npm: projects that are handed over bring it along. */
const packedKit = path.join(root, 'packages/kit/packed/yucca-kit.tgz');
/** What folders without a server need. */
const offline = path.join(root, 'packages/offline/dist');
const host = process.env.YUCCA_HOST ?? '127.0.0.1';
const port = process.env.PORT ?? '4310';
const env = {
  ...process.env,
  NEXT_TELEMETRY_DISABLED: '1',
  YUCCA_HOST: host,
  YUCCA_DATA_DIR: path.resolve(root, process.env.YUCCA_DATA_DIR ?? 'data'),
  YUCCA_MIGRATIONS: path.join(studio, 'drizzle'),
  YUCCA_KIT: packedKit,
  YUCCA_OFFLINE: offline,
};

if (command === 'start' && !existsSync(path.join(studio, '.next/front/main.mjs'))) {
  console.error('There is no built app yet. Run "npm run build" first, or "npm run demo" for everything at once.');
  process.exit(1);
}

// The script that puts a search page on any site is served beside the pages.
if (command !== 'start') {
  const dropIn = [path.join(root, 'packages/kit/build.mjs'), 'drop-in', path.join(studio, 'public/yucca-search.js')];
  const { status } = spawnSync(process.execPath, dropIn, { stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
  if (command === 'build' || !existsSync(offline)) {
    const make = [path.join(root, 'packages/offline/build.mjs'), offline];
    const { status: made } = spawnSync(process.execPath, make, { stdio: 'inherit' });
    if (made !== 0) process.exit(made ?? 1);
  }
  if (command === 'build' || !existsSync(packedKit)) {
    const pack = [path.join(root, 'packages/kit/build.mjs'), 'pack', packedKit];
    const { status: packed } = spawnSync(process.execPath, pack, { stdio: 'inherit' });
    if (packed !== 0) process.exit(packed ?? 1);
  }
}

// A built app runs in this very process: what ends this one ends the server, and its exit code is the server's.
if (command === 'start') {
  process.chdir(studio);
  Object.assign(process.env, env, { NODE_ENV: 'production' });
  process.setSourceMapsEnabled(true);
  await import(pathToFileURL(path.join(studio, '.next/front/main.mjs')).href);
} else {
  runNext();
}

/** Builds, or serves for development: the framework does, which in a built app stands behind the front server. */
function runNext() {
  const next = path.join(root, 'node_modules/next/dist/bin/next');
  const args = { build: ['build'], dev: ['dev', '-H', host, '-p', port] }[command];
  if (!args) {
    console.error(`There is no command "${command}": build, start or dev.`);
    process.exit(1);
  }
  const child = spawn(process.execPath, [next, ...args], { cwd: studio, env, stdio: 'inherit' });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code, signal) => {
    if (code !== 0 || command !== 'build') process.exit(signal ? 1 : (code ?? 1));
    const front = spawnSync(process.execPath, [path.join(studio, 'build-front.mjs')], { stdio: 'inherit' });
    process.exit(front.status ?? 1);
  });
}
