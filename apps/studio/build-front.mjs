// Bundles the front server and its threads into .next/front: one file each, packages left where they are.
import { build } from 'esbuild';
import { readdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const studio = path.dirname(fileURLToPath(import.meta.url));
const src = path.join(studio, 'src');
const outdir = path.join(studio, '.next/front');

/** `yucca:routes`: every route.ts of app/ with the path that its folders spell; a new route is in it by itself. */
const routes = {
  name: 'routes',
  setup({ onResolve, onLoad }) {
    onResolve({ filter: /^yucca:routes$/ }, () => ({ path: 'routes', namespace: 'routes' }));
    onLoad({ filter: /.*/, namespace: 'routes' }, () => {
      const app = path.join(src, 'app');
      const files = readdirSync(app, { recursive: true }).filter((file) => path.basename(file) === 'route.ts');
      const imports = files.map((file, i) => `import * as r${i} from ${JSON.stringify(path.join(app, file))};`);
      const rows = files.map(
        (file, i) => `[${JSON.stringify(`/${path.dirname(file).replaceAll(path.sep, '/')}`)}, r${i}]`,
      );
      return { contents: `${imports.join('\n')}\nexport default [${rows.join(', ')}];`, resolveDir: src, loader: 'ts' };
    });
  },
};

/** Threads are started from the files beside this one; packages are imported, those of this repository bundled. */
const places = {
  name: 'places',
  setup({ onResolve }) {
    onResolve({ filter: /(^|\/)spawn$/ }, ({ importer }) =>
      importer.includes(`${path.sep}server${path.sep}`) ? { path: path.join(src, 'front/spawn-built.ts') } : undefined,
    );
    onResolve({ filter: /^[^./]/ }, ({ path: name, kind }) =>
      kind === 'entry-point' || /^(@\/|@yucca\/|yucca:|node:)/.test(name) ? undefined : { path: name, external: true },
    );
  },
};

await build({
  entryPoints: {
    main: path.join(src, 'front/main.ts'),
    ...Object.fromEntries(
      ['writer', 'builder', 'search', 'scan', 'feed'].map((name) => [
        `${name}-worker`,
        path.join(src, `server/workers/${name}-worker.ts`),
      ]),
    ),
  },
  outdir,
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  sourcemap: 'linked',
  logLevel: 'warning',
  tsconfig: path.join(studio, 'tsconfig.json'),
  plugins: [routes, places],
});
