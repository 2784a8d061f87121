// One command from a fresh clone to a running Yucca with the Quillbrook data.
import { spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync } from 'node:fs';
import path from 'node:path';
import { ensureBuild, ensurePackages, root, run, say, startServer } from './steps.mjs';

if (Number(process.versions.node.split('.')[0]) < 20) {
  console.error(`Yucca needs Node 20 or newer; this is ${process.version}.`);
  process.exit(1);
}
const port = process.env.PORT ?? '4310';
const dataDir = path.resolve(root, process.env.YUCCA_DATA_DIR ?? 'data');
const adminKey = process.env.YUCCA_ADMIN_KEY || `demo_${randomBytes(18).toString('base64url')}`;
const env = {
  ...process.env,
  PORT: port,
  YUCCA_HOST: '127.0.0.1',
  YUCCA_DATA_DIR: dataDir,
  YUCCA_ADMIN_KEY: adminKey,
  YUCCA_LOG: process.env.YUCCA_LOG ?? 'warn',
};
const tsx = path.join(root, 'node_modules/tsx/dist/cli.mjs');

ensurePackages();
// What is written last.
if (!existsSync(path.join(dataDir, 'quillbrook/anleitungen.jsonl'))) {
  say('Making the Quillbrook data: 3,000 plants with pictures, 400 guides, 120 gardens, 24 guides in German');
  run(process.execPath, [tsx, 'demo/src/make.ts', dataDir]);
}
// Painting takes some 20 seconds; the build, the start and the loading need not wait for it.
const painting = existsSync(path.join(dataDir, 'quillbrook/painted'))
  ? Promise.resolve(0)
  : new Promise((resolve) => {
      const painter = spawn(process.execPath, [tsx, 'demo/src/paint.ts', dataDir], { cwd: root, stdio: 'inherit' });
      process.on('exit', () => painter.kill());
      painter.on('exit', resolve);
    });
ensureBuild();
say('Starting Yucca');
const server = await startServer(env, ['ignore', 'ignore', 'inherit']).catch((error) => {
  console.error(error.message);
  process.exit(1);
});
const stop = () => server.kill();
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
server.on('exit', (code) => process.exit(code ?? 0));
run(process.execPath, [tsx, 'demo/src/load.ts', `http://127.0.0.1:${port}`, dataDir], { env });
if ((await painting) !== 0) console.error('The pictures could not all be painted; the next start goes on with them.');
const officePort = process.env.BACK_OFFICE_PORT ?? String(Number(port) + 81);
const office = spawn(
  process.execPath,
  [tsx, 'demo/src/back-office/main.ts', `http://127.0.0.1:${port}`, dataDir, officePort],
  { cwd: root, env, stdio: ['ignore', 'ignore', 'inherit'] },
);
process.on('exit', () => office.kill());
console.log(`
  Yucca is running.

    Studio          http://127.0.0.1:${port}
    Search pages    http://127.0.0.1:${port}/s/nursery
                    http://127.0.0.1:${port}/s/growing
                    http://127.0.0.1:${port}/s/collect
                    http://127.0.0.1:${port}/s/anleitungen   (in German)
    Back office     http://127.0.0.1:${officePort}   (edit a plant there, and see it in the search)

  The data is in ${path.relative(process.cwd(), dataDir) || dataDir}. Stop with Ctrl+C.
`);
