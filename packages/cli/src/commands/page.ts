import { existsSync, readdirSync } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { HandoverTarget } from '@yucca/contract';
import { unzipSync } from 'fflate';
import { Refused, request, type Access } from '../server.ts';

export interface PullPageOptions {
  target: HandoverTarget;
  out: string;
  origin: string[];
  /** The id of a key that is there already. */
  keyId?: string;
  over?: boolean;
}

/** Takes a page away as files. A folder that has something in it is left alone, unless its files may be replaced. */
export async function pullPage(access: Access, slug: string, options: PullPageOptions): Promise<number> {
  const { target, out, origin, keyId, over = false } = options;
  const isTaken = existsSync(out) && readdirSync(out).length > 0;
  if (isTaken && !over) throw new Refused(`${out} is not empty; --over replaces the files that are made again.`);
  const body = JSON.stringify({
    target,
    ...(origin.length > 0 && { origins: origin }),
    ...(keyId !== undefined && { key: keyId }),
  });
  const headers = { 'Content-Type': 'application/json' };
  const answer = await request(access, `/interfaces/${encodeURIComponent(slug)}/handover`, { method: 'POST', headers, body }); // prettier-ignore
  const files = Object.entries(unzipSync(new Uint8Array(await answer.arrayBuffer())));
  for (const [name, content] of files) {
    // The archive has one folder, called as the page.
    const file = path.resolve(out, name.slice(name.indexOf('/') + 1));
    if (!file.startsWith(path.resolve(out) + path.sep)) throw new Refused(`The archive names a file outside: ${name}`);
    await mkdir(path.dirname(file), { recursive: true });
    await writeFile(file, content);
  }
  process.stderr.write(`${files.length} files in ${out}; README.md says how to go on.\n`);
  return 0;
}
