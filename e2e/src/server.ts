import type { Task } from '@yucca/contract';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';

const ROOT = path.join(__dirname, '../..');
const NEXT = path.join(ROOT, 'node_modules/next/dist/bin/next');
const FRONT = path.join(ROOT, 'apps/studio/.next/front/main.mjs');

/** Which way in: the front server, as everybody starts it, or the framework alone with its route handlers. */
export type WayIn = 'front' | 'framework';

/** A port nobody listens on. */
export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });
}

/** The built studio over a data folder of its own. */
export class Server {
  readonly dataDir = mkdtempSync(path.join(tmpdir(), 'yucca-e2e-'));
  readonly adminKey = 'e2e-admin-key';
  base = '';
  /** What it has printed so far. */
  printed = '';
  #child: ChildProcess | null = null;

  async start(env: Record<string, string> = {}, way: WayIn = 'front'): Promise<this> {
    const port = await freePort();
    this.base = `http://127.0.0.1:${port}`;
    // The process itself and no wrapper around it, so that killing it kills all of Yucca.
    const args = way === 'front' ? [FRONT] : [NEXT, 'start', '-H', '127.0.0.1', '-p', String(port)];
    this.#child = spawn(process.execPath, args, {
      cwd: path.join(ROOT, 'apps/studio'),
      stdio: ['ignore', 'pipe', 'inherit'],
      env: {
        ...process.env,
        NODE_ENV: 'production',
        NEXT_TELEMETRY_DISABLED: '1',
        PORT: String(port),
        YUCCA_DATA_DIR: this.dataDir,
        YUCCA_MIGRATIONS: path.join(ROOT, 'apps/studio/drizzle'),
        YUCCA_HOST: '127.0.0.1',
        YUCCA_ADMIN_KEY: this.adminKey,
        YUCCA_LOG: 'silent',
        ...env,
      },
    });
    this.#child.stdout!.on('data', (chunk: Buffer) => (this.printed += chunk.toString()));
    // A second or two; a machine that is busy with other work has needed forty.
    for (let tries = 0; tries < 1_200 && this.#child.exitCode === null; tries++) {
      if (
        await fetch(`${this.base}/api/v1/health`).then(
          ({ ok }) => ok,
          () => false,
        )
      )
        return this;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(`the studio did not start (exit code ${this.#child.exitCode}); is it built?\n${this.printed}`);
  }

  /** The process, for looking at it from outside. */
  get pid(): number {
    return this.#child!.pid!;
  }

  /** Whether the process is there. */
  get alive(): boolean {
    return this.#child !== null && this.#child.exitCode === null && this.#child.signalCode === null;
  }

  /** Waits until everything that is stored can be searched: after a crash a part may have to be indexed first. */
  async ready(): Promise<void> {
    for (let tries = 0; tries < 600; tries++) {
      if ((await this.call('GET', '/ready')).ok) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(`not ready: ${await (await this.call('GET', '/ready')).text()}`);
  }

  /** Ends the process; `SIGKILL` is a crash. Returns its exit code. */
  async stop(signal: 'SIGTERM' | 'SIGKILL' = 'SIGTERM'): Promise<number | null> {
    const child = this.#child;
    if (child === null || !this.alive) return child?.exitCode ?? null;
    return new Promise((resolve) => {
      child.on('exit', resolve);
      child.kill(signal);
    });
  }

  async leave(): Promise<void> {
    await this.stop();
    for (const folder of [this.dataDir, `${this.dataDir}-backups`]) rmSync(folder, { recursive: true, force: true });
  }

  /** Calls the API with the admin key. */
  call(method: string, route: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
    const type: Record<string, string> = body === undefined ? {} : { 'Content-Type': 'application/json' };
    const sent = body === undefined || typeof body === 'string' ? body : JSON.stringify(body);
    return fetch(`${this.base}/api/v1${route}`, {
      method,
      headers: { Authorization: `Bearer ${this.adminKey}`, ...type, ...headers },
      ...(sent === undefined ? {} : { body: sent as string }),
    });
  }

  async json<T>(method: string, route: string, body?: unknown, headers?: Record<string, string>): Promise<T> {
    return (await (await this.call(method, route, body, headers)).json()) as T;
  }

  /** The same, for calls that must succeed. Throws with the status and the problem otherwise. */
  async api<T = unknown>(method: string, route: string, body?: unknown): Promise<T> {
    const response = await this.call(method, route, body);
    if (!response.ok) throw new Error(`${response.status} ${await response.text()}`);
    const answer = (await response.json().catch(() => null)) as T;
    const monitor = /^<\/api\/v1([^>]+)>; rel="monitor"$/.exec(response.headers.get('link') ?? '');
    if (monitor) await this.#over(monitor[1]!);
    return answer;
  }

  /** What came of a task that a request begins, at its end. Throws when it did not come to its end. */
  async result<T>(route: string, body?: unknown, headers?: Record<string, string>): Promise<T> {
    const path = `${route}${route.includes('?') ? '&' : '?'}wait=true`;
    const { task } = await this.json<{ task: Task }>('POST', path, body, headers);
    if (task.state !== 'done') throw new Error(JSON.stringify(task));
    return task.result as T;
  }

  /** Waits for a task that an answer names. */
  async #over(route: string): Promise<void> {
    for (;;) {
      const { task } = await this.json<{ task: { endedAt: string | null } }>('GET', route);
      if (task.endedAt !== null) return;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  }
}

/** Some Quillbrook-like plants: enough for pages, facets and misspellings. */
export function somePlants(count = 120): object[] {
  const names = ['Snake plant', 'English lavender', 'Century plant', 'Dog rose', 'Tree fern', 'Garden mint'];
  const colours = ['red', 'white', 'blue', 'green, dark'];
  return Array.from({ length: count }, (_, i) => ({
    id: `P-${String(i + 1).padStart(3, '0')}`,
    name: `${names[i % names.length]} number ${i + 1}`,
    colour: colours[i % colours.length],
    care: `Water it ${i % 2 ? 'rarely' : 'often'} and keep it in the light of the morning sun, away from frost.`,
    price: 4 + (i % 30) / 2,
  }));
}

/** Makes a collection and loads records into it. */
export async function loadPlants(server: Server, name: string, records: object[] = somePlants()): Promise<void> {
  await server.call('POST', '/collections', { name, title: name === 'plants' ? 'Plants' : name });
  const response = await server.call('POST', `/collections/${name}/records?wait=true`, records);
  if (!response.ok) throw new Error(await response.text());
}
