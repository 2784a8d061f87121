import { existsSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import path from 'node:path';

const TYPES: Record<string, string> = { '.html': 'text/html', '.js': 'text/javascript', '.css': 'text/css' };

/** A site of somebody else: files of a folder, from an origin of its own. */
export interface OtherSite {
  origin: string;
  /** Headers that pages are sent with, by path. */
  headersOf: Record<string, Record<string, string>>;
  /** What browsers report of its policy, to `/reports`. */
  reports: string[];
  close: () => void;
}

/** Starts such a site. `otherwise`: the file for addresses that are no files, as a router of the page wants it. */
export async function otherSite(folder: string, otherwise = ''): Promise<OtherSite> {
  const headersOf: OtherSite['headersOf'] = {};
  const reports: string[] = [];
  const server: Server = createServer((request, response) => {
    if (request.url === '/reports') {
      request.on('data', (part: Buffer) => reports.push(part.toString()));
      return void response.writeHead(204).end();
    }
    for (const [name, value] of Object.entries(headersOf[request.url!] ?? {})) response.setHeader(name, value);
    const asked = path.join(folder, new URL(request.url!, 'http://site').pathname);
    const file = otherwise !== '' && path.extname(asked) === '' ? path.join(folder, otherwise) : asked;
    if (!existsSync(file)) return void response.writeHead(404).end();
    response.setHeader('Content-Type', TYPES[path.extname(file)] ?? 'application/octet-stream').end(readFileSync(file));
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as { port: number };
  return { origin: `http://127.0.0.1:${port}`, headersOf, reports, close: () => void server.close() };
}
