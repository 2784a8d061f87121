// Makes what a folder without a server needs: `node build.mjs FOLDER` writes the element and the thread that searches.
import { build } from 'esbuild';
import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { buildDropIn } from '../kit/build-drop-in.mjs';

const source = (name) => path.join(path.dirname(fileURLToPath(import.meta.url)), 'src', name);
const [folder = 'dist'] = process.argv.slice(2);
mkdirSync(folder, { recursive: true });
await buildDropIn(source('drop-in.ts'), path.resolve(folder, 'yucca-search.js'));
await build({
  entryPoints: [source('thread.ts')],
  outfile: path.resolve(folder, 'yucca-engine.js'),
  bundle: true,
  minify: true,
  target: 'es2022',
  // A plain script: older browsers know no workers that are modules.
  format: 'iife',
  legalComments: 'none',
  logLevel: 'error',
});
