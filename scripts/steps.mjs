// What demo, check and test share: running commands, installing what is missing, waiting for the server.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));

/**
 * What looks at the code without running it: name, command of a package, arguments. `check` and `test` run all of it.
 */
export const inspections = [
  ['route types', 'next', ['typegen', 'apps/studio']],
  ['types', 'tsc', ['-p', '.']],
  ['types of the studio', 'tsc', ['-p', 'apps/studio']],
  ['lint', 'eslint', ['.', '--cache', '--cache-location', '.cache/eslint', '--max-warnings=0']],
  ['arrows', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo', 'bench', 'e2e']],
  ['format', 'prettier', ['--check', '.', '--log-level=warn', '--cache', '--cache-location=.cache/prettier']],
  ['unused code', 'knip', []],
  // An export of the kit that says nothing of itself fails, and one without an example.
  ['docs of the kit', 'typedoc', ['--options', 'packages/kit/typedoc.json', '--out', '.cache/kit-docs']],
];

/** The projects whose tests need neither a build nor a browser. */
export const unitProjects = ['engine', 'contract', 'kit', 'offline', 'cli', 'studio', 'demo'];

/** Says what happens now. */
export const say = (text) => console.log(`\n▸ ${text}`);

/** Runs a command to its end; ends this process when it fails. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (status !== 0) {
    console.error(`\n"${command} ${args.join(' ')}" failed.`);
    process.exit(status ?? 1);
  }
}

/** Installs the packages of the lock file when they are not there. */
export function ensurePackages() {
  if (existsSync(path.join(root, 'node_modules/.package-lock.json'))) return;
  say('Installing packages (about three minutes: the database driver is compiled here)');
  run('npm', ['ci', '--no-fund', '--no-audit', '--loglevel=error']);
}

function newest(folder) {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    if (['node_modules', 'dist'].includes(entry.name) || entry.name.startsWith('.next')) continue;
    const full = path.join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(full) : statSync(full).mtimeMs);
  }
  return latest;
}

/** Builds the studio unless a build is there that is newer than every source. */
export function ensureBuild() {
  const stamp = path.join(root, 'apps/studio/.next/front/main.mjs');
  const sources = ['packages', 'apps'].map((folder) => newest(path.join(root, folder)));
  if (existsSync(stamp) && statSync(stamp).mtimeMs > Math.max(...sources)) return;
  say('Building the studio (about a minute)');
  run(process.execPath, ['scripts/serve.mjs', 'build'], { stdio: ['ignore', 'ignore', 'inherit'] });
}

/** Starts a built studio; returns its process once it is healthy. */
export async function startServer(env, stdio = 'inherit') {
  const address = `http://127.0.0.1:${env.PORT}`;
  const healthy = () =>
    fetch(`${address}/api/v1/health`, { signal: AbortSignal.timeout(2000) }).then(
      (response) => response.ok,
      () => false,
    );
  if (
    await fetch(address, { signal: AbortSignal.timeout(2000) }).then(
      () => true,
      () => false,
    )
  ) {
    throw new Error(`Something answers on ${address} already. Stop it, or choose another port: PORT=4311 npm run demo`);
  }
  const child = spawn(process.execPath, ['scripts/serve.mjs', 'start'], {
    cwd: root,
    env: { ...process.env, ...env },
    stdio,
  });
  let ended = false;
  child.on('exit', () => (ended = true));
  for (let tries = 0; tries < 240 && !ended; tries++) {
    if ((await healthy()) && !ended) return child;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  child.kill();
  throw new Error(`Yucca did not start on ${address}; the lines above say why.`);
}
