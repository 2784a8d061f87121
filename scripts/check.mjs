// The everyday loop: types, lint, arrows, format, unused code, unit tests. Each step runs to its end; all findings are
// shown.
import { spawn } from 'node:child_process';
import { inspections, root, unitProjects } from './steps.mjs';

const unitTests = ['unit tests', 'jest', ['--selectProjects', ...unitProjects, '--maxWorkers=1']];
// Two lanes, as on a small machine: what takes longest beside the rest.
const types = inspections.findIndex(([name]) => name === 'arrows');
const lanes = [inspections.slice(0, types), [unitTests, ...inspections.slice(types)]];

const step = ([name, command, args]) =>
  new Promise((resolve) => {
    const start = Date.now();
    const child = spawn(`node_modules/.bin/${command}`, args, {
      cwd: root,
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
    });
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
