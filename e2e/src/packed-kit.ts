import { cpSync, mkdirSync, readFileSync, symlinkSync } from 'node:fs';
import path from 'node:path';
import { gzipSync } from 'node:zlib';
import { buildSync } from 'esbuild';
import { run } from './handed-over';
import type { Server } from './server';

export const ROOT = path.join(__dirname, '../..');
export const GUIDE = path.join(ROOT, 'docs/guide');
export const DIST = path.join(ROOT, 'packages/kit/dist');

/**
 * The package as it is handed over, unpacked where nothing of this repository is around it: into the application of the
 * guide, in the folder `app`, whose record types are written anew from a server. Making the package, types and all,
 * takes a minute.
 */
export async function packedKit(server: Server, away: string): Promise<void> {
  const app = path.join(away, 'app');
  await run(process.execPath, ['build.mjs'], path.join(ROOT, 'packages/kit'));
  await run('npm', ['pack', DIST, '--pack-destination', away, '--silent'], away);
  cpSync(path.join(GUIDE, 'app'), app, { recursive: true });
  const unpacked = path.join(app, 'node_modules/@yucca/kit');
  mkdirSync(unpacked, { recursive: true });
  await run('tar', ['-xzf', path.join(away, 'yucca-kit-0.1.0.tgz'), '-C', unpacked, '--strip-components=1'], away);
  // What npm would fetch is taken from here.
  const frameworks = ['react', 'react-dom', 'react-router', 'vue', 'svelte'];
  for (const name of [...frameworks, 'vite', '@vitejs', '@sveltejs', 'json-schema-to-ts', '@types'])
    symlinkSync(path.join(ROOT, 'node_modules', name), path.join(app, 'node_modules', name));

  const types = path.join(app, 'src/plants-record.ts');
  const written = readFileSync(types, 'utf8');
  const cli = path.join(ROOT, 'packages/cli/bin/yucca.mjs');
  const access = { YUCCA_URL: server.base, YUCCA_KEY: server.adminKey };
  await run(process.execPath, [cli, 'types', 'plants', '-o', types], app, access);
  expect(readFileSync(types, 'utf8')).toBe(written);
}

/**
 * What a module of an application weighs for its visitors: bundled, minified, packed, the frameworks outside. What is
 * fetched later, by those pages that need it, is not in it.
 */
export function weighed(contents: string, app: string): number {
  const { outputFiles, metafile } = buildSync({
    stdin: { contents, resolveDir: app },
    bundle: true,
    splitting: true,
    outdir: app,
    metafile: true,
    minify: true,
    write: false,
    format: 'esm',
    external: ['react', 'react-dom', 'react/jsx-runtime', 'vue'],
  });
  const parts = new Map(outputFiles.map(({ path: file, contents: code }) => [path.resolve(file), code]));
  const atOnce = new Set<string>();
  const take = (file: string): void => {
    if (atOnce.has(file)) return;
    atOnce.add(file);
    for (const { path: other, kind, external } of metafile.outputs[file]!.imports)
      if (kind === 'import-statement' && external !== true) take(other);
  };
  take(Object.keys(metafile.outputs).find((file) => metafile.outputs[file]!.entryPoint === '<stdin>')!);
  const codes = [...atOnce].map((file) => parts.get(path.resolve(file))!);
  return gzipSync(Buffer.concat(codes), { level: 9 }).length;
}
