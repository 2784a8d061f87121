import { buildSync } from 'esbuild';
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { Script } from 'node:vm';

const OUT = path.join(__dirname, '../../../.cache/test-workers');

/**
 * Bundles the worker threads once for all test files, as the bundler of the application does when it builds, and keeps
 * what V8 makes of each: the tests start thousands of threads, and compiling is more than half of a start.
 */
export default function bundleWorkers(): void {
  mkdirSync(OUT, { recursive: true });
  for (const name of ['writer', 'builder', 'search', 'scan', 'feed']) {
    const { outputFiles } = buildSync({
      entryPoints: [path.join(__dirname, `../src/server/workers/${name}-worker.ts`)],
      bundle: true,
      platform: 'node',
      format: 'cjs',
      external: ['better-sqlite3', 'pg-native'],
      write: false,
    });
    const code = `(function (require, module, exports) {${outputFiles[0]!.text}\n})`;
    writeFileSync(path.join(OUT, `${name}.cjs`), code);
    writeFileSync(
      path.join(OUT, `${name}.cache`),
      new Script(code, { filename: `${name}-worker.cjs` }).createCachedData(),
    );
  }
}
