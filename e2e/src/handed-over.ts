import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
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
): Promise<{ stdout: string }> => {
  // What a developer's shell has, and nothing of the test run around.
  const around = Object.entries(process.env).filter(([name]) => !/^(NODE_|JEST_|YUCCA_)/.test(name));
  const own = { NEXT_TELEMETRY_DISABLED: '1', ...env } as unknown as NodeJS.ProcessEnv;
  return promisify(execFile)(command, [...args], { cwd, env: { ...Object.fromEntries(around), ...own } });
};

/** Installs a project from its own package.json as its README says, or, when no registry is in reach, from here. */
export async function install(project: HandedOver): Promise<void> {
  try {
    await run('npm', ['install', '--prefer-offline', '--no-audit', '--no-fund', '--loglevel=error'], project.folder);
  } catch (error) {
    if (!/ENOTFOUND|EAI_AGAIN|ECONN|ETIMEDOUT|ENETUNREACH|ENOTCACHED|network/.test((error as Error).message))
      throw error;
    await installFromHere(project);
  }
}

const HERE = path.join(__dirname, '../../node_modules');

interface Manifest {
  version: string;
  bin?: string | Record<string, string>;
  dependencies?: Record<string, string>;
  devDependencies?: Record<string, string>;
  optionalDependencies?: Record<string, string>;
  peerDependencies?: Record<string, string>;
}
const manifestIn = (folder: string): Manifest =>
  JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8')) as Manifest;

/**
 * Installs a project from the packages of this repository, without asking a registry: those its package.json names, in
 * the versions it names, with all that they need, and nothing else. What is not named cannot be found.
 */
export async function installFromHere({ folder }: HandedOver): Promise<void> {
  const modules = path.join(folder, 'node_modules');
  rmSync(modules, { recursive: true, force: true });
  mkdirSync(path.join(modules, '.bin'), { recursive: true });
  const own = manifestIn(folder);
  const visited = new Set<string>();
  const taken = new Set<string>();
  for (const [name, version] of Object.entries({ ...own.dependencies, ...own.devDependencies })) {
    if (version.startsWith('file:')) continue;
    const found = manifestIn(path.join(HERE, name)).version;
    if (found !== version) throw new Error(`${name} is ${version} in the project and ${found} here`);
    visit(path.join(HERE, name));
  }
  for (const name of taken) {
    mkdirSync(path.dirname(path.join(modules, name)), { recursive: true });
    // Compilers follow no link out of their project; a second name for the same bytes is no link to them.
    const copy = 'cp -al "$0" "$1" 2>/dev/null || { rm -rf "$1"; cp -a "$0" "$1"; }';
    await run('sh', ['-c', copy, path.join(HERE, name), path.join(modules, name)], folder);
    const { bin = {} } = manifestIn(path.join(HERE, name));
    const commands = typeof bin === 'string' ? { [path.basename(name)]: bin } : bin;
    for (const [command, file] of Object.entries(commands))
      symlinkSync(path.join('..', name, file), path.join(modules, '.bin', command));
  }
  mkdirSync(path.join(modules, '@yucca/kit'), { recursive: true });
  await run('tar', ['-xzf', 'kit/yucca-kit.tgz', '-C', 'node_modules/@yucca/kit', '--strip-components=1'], folder);

  /** Takes a package and, looked up as Node does, what it needs. */
  function visit(at: string): void {
    if (visited.has(at)) return;
    visited.add(at);
    const [first, second] = path.relative(HERE, at).split(path.sep);
    taken.add(first!.startsWith('@') ? `${first}/${second}` : first!);
    const { dependencies, optionalDependencies, peerDependencies } = manifestIn(at);
    for (const name of Object.keys({ ...dependencies, ...optionalDependencies, ...peerDependencies })) {
      for (let from = at; from.startsWith(HERE); from = path.dirname(from)) {
        const found = path.join(from === HERE ? from : path.join(from, 'node_modules'), name);
        if (!existsSync(found)) continue;
        visit(found);
        break;
      }
    }
  }
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
