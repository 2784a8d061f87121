// Everything, from a fresh clone: packages, browser, build, checks, unit tests, tests of the real interface.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages, root, run, say } from './steps.mjs';

ensurePackages();

/** What tests use besides packages of npm: by the file that shows it is there, the Debian package that brings it. */
const programs = [
  { file: process.env.CHROME_PATH ?? '/usr/bin/chromium', from: 'chromium' },
  { file: process.env.CHROMEDRIVER_PATH ?? '/usr/bin/chromedriver', from: 'chromium-driver' },
  { file: process.env.NGINX_PATH ?? '/usr/sbin/nginx', from: 'nginx-light' },
];
const missing = programs.filter(({ file }) => !existsSync(file)).map(({ from }) => from);
if (missing.length > 0) {
  const isRoot = process.getuid?.() === 0;
  const hasApt = spawnSync('apt-get', ['--version'], { stdio: 'ignore' }).status === 0;
  if (!isRoot || !hasApt) {
    console.error(
      `The tests of the interface need ${missing.join(', ')}. Install those packages, or set CHROME_PATH, CHROMEDRIVER_PATH and NGINX_PATH.`,
    );
    process.exit(1);
  }
  say(`Installing ${missing.join(', ')}`);
  run('apt-get', ['update', '-qq']);
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
}

let failed = 0;
let passed = 0;
const results = path.join(root, '.cache/test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

/** Runs Jest and adds its numbers to the sum. */
function jest(label, projects, workers) {
  say(label);
  const file = path.join(results, `${projects[0]}.json`);
  const args = [
    'node_modules/jest/bin/jest.js',
    '--selectProjects',
    ...projects,
    `--maxWorkers=${workers}`,
    '--json',
    `--outputFile=${file}`,
  ];
  const { status } = spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NODE_ENV: 'test', YUCCA_PROPERTY_RUNS: '3' },
  });
  if (!existsSync(file)) {
    failed += 1;
    return;
  }
  const report = JSON.parse(readFileSync(file, 'utf8'));
  passed += report.numPassedTests;
  failed += report.numFailedTests + report.numRuntimeErrorTestSuites;
  if (status !== 0 && report.numFailedTests + report.numRuntimeErrorTestSuites === 0) failed += 1;
}

ensureBuild();
for (const [label, command, args] of [
  ['Types', 'tsc', ['-p', '.']],
  ['Types of the studio', 'tsc', ['-p', 'apps/studio']],
  ['Lint', 'eslint', ['.', '--max-warnings=0']],
  ['Arrows', 'depcruise', ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo', 'bench', 'e2e']],
  ['Format', 'prettier', ['--check', '.', '--log-level=warn']],
  ['Unused code', 'knip', []],
]) {
  say(label);
  const { status } = spawnSync(path.join(root, 'node_modules/.bin', command), args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (status === 0) passed += 1;
  else failed += 1;
}
jest('Unit tests', ['engine', 'contract', 'kit', 'cli', 'studio', 'demo'], 2);
jest('Tests of the built application, over HTTP and in Chromium', ['e2e'], 1);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
