import path from 'node:path';
import { run } from './handed-over';
import type { Server } from './server';

const ROOT = path.join(__dirname, '../..');
const TSX = path.join(ROOT, 'node_modules/tsx/dist/cli.mjs');

/** Brings the demo into a server: its collections, pages and pictures. */
export async function loadQuillbrook(server: Server): Promise<void> {
  await run(process.execPath, [TSX, path.join(ROOT, 'demo/src/make.ts'), server.dataDir], ROOT);
  await run(process.execPath, [TSX, path.join(ROOT, 'demo/src/load.ts'), server.base, server.dataDir], ROOT, {
    YUCCA_ADMIN_KEY: server.adminKey,
  });
}
