// Makes what a front-end developer installs: `node build.mjs` writes the package to dist, `node build.mjs pack FILE`
// packs it too; `node build.mjs drop-in FILE` writes the drop-in scripts alone, which the studio serves.
import { build } from 'esbuild';
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { rollup } from 'rollup';
import { dts } from 'rollup-plugin-dts';
import { fileURLToPath } from 'node:url';
import { buildDropIn } from './build-drop-in.mjs';

const kit = path.dirname(fileURLToPath(import.meta.url));
const root = path.join(kit, '../..');
const source = (name) => path.join(kit, 'src', name);
const out = path.join(kit, 'dist');
const { version, license } = JSON.parse(readFileSync(path.join(root, 'package.json'), 'utf8'));

/** What is imported by name: its file among the sources. */
const entries = {
  index: source('index.ts'),
  insights: source('insights.ts'),
  standing: source('standing-client.ts'),
  react: source('react/index.ts'),
  // Fetched by the pages that have it: what the entry above exports itself is loaded with it.
  'react-voice': source('react/voice-button.tsx'),
  vue: source('vue/index.ts'),
  svelte: source('svelte/index.ts'),
  lens: source('lens/index.ts'),
  voice: source('voice.ts'),
  texts: source('texts/index.ts'),
  // One language, for pages that speak no other.
  ...Object.fromEntries(
    ['arabic', 'english', 'french', 'german', 'japanese', 'spanish'].map((name) => [
      `texts/${name}`,
      source(`texts/${name}.ts`),
    ]),
  ),
};

/** With the engine in it, and apart from the rest: what a page loads is not to be parted for the sake of tests. */
const testing = path.join(root, 'packages/offline/src/testing.ts');
const asNeighbour = {
  name: 'as-neighbour',
  setup({ onResolve }) {
    onResolve({ filter: /^@yucca\/kit$/ }, () => ({ path: './index.js', external: true }));
  },
};

async function buildPackage() {
  rmSync(out, { recursive: true, force: true });
  await build({
    entryPoints: entries,
    outdir: out,
    bundle: true,
    splitting: true,
    format: 'esm',
    target: 'es2022',
    jsx: 'automatic',
    // What is only for the drop-in goes, see react/in-package.ts.
    minifySyntax: true,
    external: ['react', 'react-dom', 'react/jsx-runtime', 'vue'],
    logLevel: 'error',
  });
  await build({
    entryPoints: [testing],
    outfile: path.join(out, 'testing.js'),
    bundle: true,
    format: 'esm',
    target: 'es2022',
    plugins: [asNeighbour],
    logLevel: 'error',
  });
  // Frameworks with server components must know where the browser's part begins.
  for (const name of ['react.js', 'react-voice.js', 'lens.js']) {
    const file = path.join(out, name);
    writeFileSync(file, `'use client';\n${readFileSync(file, 'utf8')}`);
  }
  await buildDropIn(source('drop-in/index.ts'), path.join(out, 'yucca-search.js'));
  await buildDropIn(source('drop-in/field.ts'), path.join(out, 'yucca-search-field.js'), false);
  await build({
    entryPoints: [source('styles/search.css')],
    outfile: path.join(out, 'styles.css'),
    bundle: true,
    logLevel: 'error',
  });
  copyFileSync(source('styles/lens.css'), path.join(out, 'lens.css'));
  // One program for all: what is found by way of node_modules would be read anew for each of its files.
  const paths = Object.fromEntries(
    ['contract', 'engine', 'kit'].map((name) => [`@yucca/${name}`, [path.join(root, `packages/${name}/src/index.ts`)]]),
  );
  const bundle = await rollup({
    input: { ...entries, testing },
    plugins: [dts({ respectExternal: true, tsconfig: path.join(root, 'tsconfig.json'), compilerOptions: { paths } })],
    external: [/^react/, /^vue/, /^json-schema-to-ts/],
    onwarn: () => {},
  });
  await bundle.write({ dir: out, format: 'es', entryFileNames: '[name].d.ts', chunkFileNames: '[name].d.ts' });
  await bundle.close();
  const types = JSON.parse(readFileSync(path.join(root, 'packages/contract/package.json'), 'utf8')).dependencies;
  const entry = (name) => ({ types: `./${name}.d.ts`, default: `./${name}.js` });
  writeFileSync(
    path.join(out, 'package.json'),
    JSON.stringify(
      {
        name: '@yucca/kit',
        version,
        license,
        description: 'Search-as-you-type for your page: client, state, address, autocomplete, components.',
        type: 'module',
        sideEffects: [
          '*.css',
          './yucca-search.js',
          './yucca-search-more.js',
          './yucca-search-insights.js',
          './yucca-search-field.js',
        ],
        exports: {
          '.': entry('index'),
          './insights': entry('insights'),
          './react': entry('react'),
          './react/voice': entry('react-voice'),
          './vue': entry('vue'),
          './svelte': entry('svelte'),
          './lens': entry('lens'),
          './voice': entry('voice'),
          './standing': entry('standing'),
          './texts': entry('texts'),
          './testing': entry('testing'),
          './texts/*': { types: './texts/*.d.ts', default: './texts/*.js' },
          './styles.css': './styles.css',
          './lens.css': './lens.css',
          './yucca-search.js': './yucca-search.js',
          './yucca-search-more.js': './yucca-search-more.js',
          './yucca-search-insights.js': './yucca-search-insights.js',
          './yucca-search-field.js': './yucca-search-field.js',
        },
        dependencies: { 'json-schema-to-ts': types['json-schema-to-ts'] },
        peerDependencies: { react: '>=18', vue: '>=3.3' },
        peerDependenciesMeta: { react: { optional: true }, vue: { optional: true } },
      },
      null,
      2,
    ) + '\n',
  );
}

const [what, file] = process.argv.slice(2);
if (what === 'drop-in') {
  mkdirSync(path.dirname(file), { recursive: true });
  await buildDropIn(source('drop-in/index.ts'), path.resolve(file));
  await buildDropIn(source('drop-in/field.ts'), path.resolve(file.replace(/\.js$/, '-field.js')), false);
} else {
  await buildPackage();
  if (what === 'pack') pack(path.resolve(file));
}

/** Packs what was built, as npm would before it publishes it. */
function pack(file) {
  const folder = path.dirname(file);
  mkdirSync(folder, { recursive: true });
  const named = execFileSync('npm', ['pack', out, '--pack-destination', folder, '--silent'], { cwd: folder });
  renameSync(path.join(folder, named.toString().trim().split('\n').at(-1)), file);
}
