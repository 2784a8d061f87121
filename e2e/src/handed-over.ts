import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { createServer, type Server as HttpServer } from 'node:http';
import path from 'node:path';
import { promisify } from 'node:util';
import type { HandoverTarget } from '@yucca/contract';
import { unzipSync } from 'fflate';
import type { Server } from './server';

/** A page as it was taken away, unpacked. */
export interface HandedOver {
  folder: string;
  /** What its README says it works under. */
  policy: string;
}

/** Takes a page away as a developer would, over HTTP, and unpacks it into a folder. */
export async function takeAway(
  server: Server,
  slug: string,
  target: HandoverTarget,
  origins: readonly string[],
  into: string,
): Promise<HandedOver> {
  const answer = await server.call('POST', `/interfaces/${slug}/handover`, {
    target,
    ...(origins.length > 0 && { origins }),
  });
  if (!answer.ok) throw new Error(await answer.text());
  const files = unzipSync(new Uint8Array(await answer.arrayBuffer()));
  for (const [name, content] of Object.entries(files)) {
    const file = path.join(into, target, name);
    mkdirSync(path.dirname(file), { recursive: true });
    writeFileSync(file, content);
  }
  const folder = path.join(into, target, slug);
  const policy = /Content-Security-Policy: (.+)/.exec(readFileSync(path.join(folder, 'README.md'), 'utf8'))![1]!;
  return { folder, policy };
}

/** Runs a command of a project to its end; what it printed is in the error when it fails. */
export const run = (
  command: string,
  args: readonly string[],
  cwd: string,
  env: Record<string, string> = {},
): Promise<unknown> => {
  // What a developer's shell has, and nothing of the test run around.
  const around = Object.entries(process.env).filter(([name]) => !/^(NODE_|JEST_|YUCCA_)/.test(name));
  const own = { NEXT_TELEMETRY_DISABLED: '1', ...env } as unknown as NodeJS.ProcessEnv;
  return promisify(execFile)(command, [...args], { cwd, env: { ...Object.fromEntries(around), ...own } });
};

/** What npm says when no registry is in reach. */
const OUT_OF_REACH = /ENOTFOUND|EAI_AGAIN|ECONN|ETIMEDOUT|ENETUNREACH|ENOTCACHED|network/;

/** Installs a project from its own package.json; projects with the same packages share what the first one installed. */
export async function install({ folder }: HandedOver, like?: HandedOver): Promise<void> {
  if (like) return symlinkSync(path.join(like.folder, 'node_modules'), path.join(folder, 'node_modules'));
  try {
    await run('npm', ['install', '--prefer-offline', '--no-audit', '--no-fund', '--loglevel=error'], folder);
  } catch (error) {
    if (!OUT_OF_REACH.test((error as Error).message)) throw error;
    await installFromHere(folder);
  }
}

/** Without a registry, the packages of this repository stand for what npm would fetch: their versions are the same. */
async function installFromHere(folder: string): Promise<void> {
  const here = path.join(__dirname, '../../node_modules');
  const modules = path.join(folder, 'node_modules');
  rmSync(modules, { recursive: true, force: true });
  mkdirSync(path.join(modules, '@yucca/kit'), { recursive: true });
  for (const name of readdirSync(here))
    if (name !== '@yucca' && name !== '.package-lock.json')
      symlinkSync(path.join(here, name), path.join(modules, name));
  await run('tar', ['-xzf', 'kit/yucca-kit.tgz', '-C', 'node_modules/@yucca/kit', '--strip-components=1'], folder);
}

const TYPES: Readonly<Record<string, string>> = {
  '.css': 'text/css',
  '.html': 'text/html',
  '.js': 'text/javascript',
  '.json': 'application/json',
  '.svg': 'image/svg+xml',
  '.webmanifest': 'application/manifest+json',
};

/** A site of somebody else: files of a folder, under a policy, and whatever else its pages break it with. */
export class Site {
  folder = '';
  policy = '';
  /** Bytes sent since somebody last looked, and the files. */
  sent = 0;
  asked: string[] = [];
  readonly #http: HttpServer;

  constructor() {
    this.#http = createServer((request, response) => {
      const { pathname } = new URL(request.url!, 'http://site');
      const file = path.join(this.folder, pathname.endsWith('/') ? `${pathname}index.html` : pathname);
      this.asked.push(pathname);
      if (!existsSync(file)) return void response.writeHead(404).end();
      const content = readFileSync(file);
      this.sent += content.length;
      response.setHeader('Content-Type', TYPES[path.extname(file)] ?? 'application/octet-stream');
      if (this.policy !== '') response.setHeader('Content-Security-Policy', this.policy);
      response.end(content);
    });
  }

  async start(): Promise<this> {
    await new Promise<void>((resolve) => this.#http.listen(0, '127.0.0.1', resolve));
    return this;
  }

  get base(): string {
    return `http://127.0.0.1:${(this.#http.address() as { port: number }).port}`;
  }

  stop(): void {
    this.#http.closeAllConnections();
    this.#http.close();
  }
}
