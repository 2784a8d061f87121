import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable } from 'node:stream';

const PORT = 4399;
export const BASE = `http://127.0.0.1:${PORT}`;
export const KEY = 'bench-key';
/** Lines of a load that are sent in one piece. */
const LINES_AT_ONCE = 500;

/** A built studio over a folder of its own, as `npm start` runs it. */
export function startServer(dataDir: string, more: Record<string, string> = {}): ChildProcess {
  const root = process.cwd();
  return spawn(process.execPath, [path.join(root, 'apps/studio/.next/front/main.mjs')], {
    cwd: path.join(root, 'apps/studio'),
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...serverEnvironment(root, dataDir, PORT), ...more },
  });
}

/** Runs something with a server over a folder of its own, which is gone afterwards. */
export async function withServer<T>(run: (server: ChildProcess) => Promise<T>): Promise<T> {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-bench-'));
  const server = startServer(dataDir);
  try {
    await healthy();
    return await run(server);
  } finally {
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill();
    await ended;
    rmSync(dataDir, { recursive: true, force: true });
  }
}

/** Asks the API as its administrator; whatever it answers. */
export const ask = (route: string): Promise<Response> =>
  fetch(`${BASE}/api/v1${route}`, { headers: { Authorization: `Bearer ${KEY}` } });

/** What a studio is told that is built in `root`. */
export const serverEnvironment = (root: string, dataDir: string, port: number): NodeJS.ProcessEnv => ({
  ...process.env,
  NODE_ENV: 'production',
  NEXT_TELEMETRY_DISABLED: '1',
  PORT: String(port),
  YUCCA_DATA_DIR: dataDir,
  YUCCA_MIGRATIONS: path.join(root, 'apps/studio/drizzle'),
  YUCCA_HOST: '127.0.0.1',
  YUCCA_ADMIN_KEY: KEY,
  YUCCA_LOG: 'silent',
});

/** Settles when the server answers. */
export async function healthy(): Promise<void> {
  for (let tries = 0; tries < 200; tries++) {
    const ok = await fetch(`${BASE}/api/v1/health`).then(
      (response) => response.ok,
      () => false,
    );
    if (ok) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('the studio did not start; run "npm run build" first');
}

/** Settles when every index is open. */
export async function opened(): Promise<void> {
  while (!(await fetch(`${BASE}/api/v1/ready`)).ok) await new Promise((resolve) => setTimeout(resolve, 50));
}

/** Asks the API as its administrator; what it answers is returned as it is. */
export async function call(
  method: string,
  route: string,
  body: BodyInit | null,
  type = 'application/json',
): Promise<Response> {
  const response = await fetch(`${BASE}/api/v1${route}`, {
    method,
    headers: { Authorization: `Bearer ${KEY}`, 'Content-Type': type },
    body,
    duplex: 'half',
  } as RequestInit);
  if (!response.ok) throw new Error(`${method} ${route}: ${await response.text()}`);
  return response;
}

/** Loads records into a collection, each made when it is sent; settles when all can be searched. */
export async function loadLines(name: string, count: number, line: (i: number) => string): Promise<void> {
  function* pieces(): Generator<Buffer> {
    for (let at = 0; at < count; at += LINES_AT_ONCE) {
      const many = Math.min(LINES_AT_ONCE, count - at);
      yield Buffer.from(Array.from({ length: many }, (_, i) => `${line(at + i)}\n`).join(''));
    }
  }
  const body = Readable.toWeb(Readable.from(pieces())) as unknown as BodyInit;
  await (await call('POST', `/collections/${name}/records?wait=true`, body, 'application/x-ndjson')).arrayBuffer();
}

/** Resident memory of a process and everything in it, from the kernel. */
export function residentMb(pid: number): number {
  const match = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Math.round(Number(match?.[1] ?? 0) / 1024);
}
