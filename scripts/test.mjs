// Everything, from a fresh clone: packages, browser, build, checks, unit tests, tests of the real interface.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages, inspections, root, run, say, unitProjects } from './steps.mjs';

ensurePackages();

/** Debian keeps each version of PostgreSQL in a folder of its own. */
const versions = '/usr/lib/postgresql';
const newest = existsSync(versions) ? (readdirSync(versions).sort().at(-1) ?? '') : '';

/** What tests use besides packages of npm: by the file that shows it is there, the Debian package that brings it. */
const programs = [
  { file: process.env.CHROME_PATH ?? '/usr/bin/chromium', from: 'chromium' },
  { file: process.env.CHROMEDRIVER_PATH ?? '/usr/bin/chromedriver', from: 'chromium-driver' },
  { file: process.env.NGINX_PATH ?? '/usr/sbin/nginx', from: 'nginx-light' },
  { file: path.join(process.env.POSTGRES_BIN ?? path.join(versions, newest, 'bin'), 'postgres'), from: 'postgresql' },
];
const missing = programs.filter(({ file }) => !existsSync(file)).map(({ from }) => from);
if (missing.length > 0) {
  const isRoot = process.getuid?.() === 0;
  const hasApt = spawnSync('apt-get', ['--version'], { stdio: 'ignore' }).status === 0;
  if (!isRoot || !hasApt) {
    console.error(
      `The tests of the interface need ${missing.join(', ')}. Install those packages, or set CHROME_PATH, CHROMEDRIVER_PATH, NGINX_PATH and POSTGRES_BIN.`,
    );
    process.exit(1);
  }
  say(`Installing ${missing.join(', ')}`);
  run('apt-get', ['update', '-qq']);
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
    stdio: ['ignore', 'ignore', 'inherit'],
  });
}

let passed = 0;
/** What failed, by name: the end of a long output is what is read first. */
const failures = [];
const results = path.join(root, '.cache/test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });

/** Runs Jest and adds its numbers to the sum. `chosen`: which files, as its options say it. */
function jest(label, projects, workers, chosen = []) {
  say(label);
  const file = path.join(results, `${projects[0]}-${workers}.json`);
  const args = [
    'node_modules/jest/bin/jest.js',
    '--selectProjects',
    ...projects,
    `--maxWorkers=${workers}`,
    '--json',
    `--outputFile=${file}`,
    ...chosen,
  ];
  const { status } = spawnSync(process.execPath, args, {
    cwd: root,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, NODE_ENV: 'test' },
  });
  if (!existsSync(file)) {
    failures.push(`${label}: no results were written`);
    return;
  }
  const report = JSON.parse(readFileSync(file, 'utf8'));
  passed += report.numPassedTests;
  const before = failures.length;
  for (const { name, message, status: outcome, assertionResults } of report.testResults) {
    const tests = assertionResults.filter((test) => test.status === 'failed');
    const file = path.relative(root, name);
    for (const { fullName, failureMessages } of tests) {
      const why = failureMessages.join('\n').split('\n').slice(0, 12).join('\n      ');
      failures.push(`${file}: ${fullName}\n      ${why}`);
    }
    if (outcome === 'failed' && tests.length === 0) failures.push(`${file}: ${message.slice(0, 1_000)}`);
  }
  if (status !== 0 && failures.length === before) failures.push(`${label}: ended with exit code ${status}`);
}

ensureBuild();
for (const [label, command, args] of inspections) {
  say(label);
  const { status } = spawnSync(path.join(root, 'node_modules/.bin', command), args, {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  if (status === 0) passed += 1;
  else failures.push(label);
}
jest('Unit tests', unitProjects, 2);
/** Files that say how long something may take: nothing else runs beside them. The others wait for what they need. */
const TIMED =
  '/(lighthouse|publish-load|handover-line|feeds|feed-sources|feed-postgres|search-page|interfaces|insights|kit-elsewhere|leaks|main-thread|requests|crash)\\.test\\.ts$';
const built = 'Tests of the built application, over HTTP and in Chromium';
jest(built, ['e2e'], 2, [`--testPathIgnorePatterns=${TIMED}`]);
jest(`${built}: those with a time`, ['e2e'], 1, [`--testPathPatterns=${TIMED}`]);

for (const failure of failures) console.log(`\n✗ ${failure}`);
console.log(`\n${passed} passed, ${failures.length} failed`);
process.exit(failures.length === 0 ? 0 : 1);
