// The everyday loop: types, lint, arrows, format, unused code, unit tests. Each step runs to its end; all findings are shown.
import { spawn } from 'node:child_process';
import { root } from './steps.mjs';

const bin = (name) => `node_modules/.bin/${name}`;
// Two lanes, as on a small machine: the slow steps beside each other.
const lanes = [
  [
    ['route types', bin('next'), ['typegen', 'apps/studio']],
    ['types', bin('tsc'), ['-p', '.']],
    ['types of the studio', bin('tsc'), ['-p', 'apps/studio']],
    ['lint', bin('eslint'), ['.', '--cache', '--cache-location', '.cache/eslint', '--max-warnings=0']],
  ],
  [
    [
      'unit tests',
      bin('jest'),
      ['--selectProjects', 'engine', 'contract', 'kit', 'cli', 'studio', 'demo', '--maxWorkers=1'],
    ],
    ['arrows', bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'packages', 'apps', 'demo', 'bench', 'e2e']],
    ['format', bin('prettier'), ['--check', '.', '--log-level=warn', '--cache', '--cache-location=.cache/prettier']],
    ['unused code', bin('knip'), []],
  ],
];

const step = ([name, command, args]) =>
  new Promise((resolve) => {
    const start = Date.now();
    const child = spawn(command, args, { cwd: root, env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' } });
    let output = '';
    child.stdout.on('data', (text) => (output += text));
    child.stderr.on('data', (text) => (output += text));
    child.on('exit', (code) => {
      console.log(`${code === 0 ? '✓' : '✗'} ${name} (${((Date.now() - start) / 1000).toFixed(1)} s)`);
      if (code !== 0) console.log(output);
      resolve(code === 0);
    });
  });

const results = await Promise.all(
  lanes.map(async (lane) => {
    let fine = true;
    for (const one of lane) fine = (await step(one)) && fine;
    return fine;
  }),
);
process.exit(results.every(Boolean) ? 0 : 1);
