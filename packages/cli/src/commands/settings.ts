import type { Settings, SettingsAnswer } from '@yucca/contract';
import { readFile, writeFile } from 'node:fs/promises';
import { Refused, requestJson, type Access } from '../server.ts';

const path = (collection: string): string => `/collections/${encodeURIComponent(collection)}/settings`;

/** Writes a collection's settings to a file, in a form that reads well in a diff. */
export async function pull(access: Access, collection: string, { output }: { output?: string }): Promise<number> {
  const settings = await requestJson<Settings>(access, path(collection));
  const text = `${JSON.stringify(settings, null, 2)}\n`;
  if (output === undefined) process.stdout.write(text);
  else await writeFile(output, text);
  return 0;
}

/** Takes a collection's settings over from a file: as the draft, or live at once. */
export async function push(
  access: Access,
  collection: string,
  file: string,
  { publish = false, note }: { publish?: boolean; note?: string },
): Promise<number> {
  const query = new URLSearchParams({ publish: String(publish), ...(note === undefined ? {} : { note }) });
  const answer = await requestJson<SettingsAnswer>(
    access,
    `${path(collection)}?${query.toString()}`,
    'PUT',
    await read(file),
  );
  const what = answer.changed.length === 0 ? 'Nothing differs' : `Changed: ${answer.changed.join(', ')}`;
  const state = answer.draftChanged
    ? `a draft waits beside version ${answer.liveVersion}`
    : `live version ${answer.liveVersion}`;
  process.stderr.write(`${what}; ${state}.\n`);
  return 0;
}

async function read(file: string): Promise<unknown> {
  const text = await readFile(file, 'utf8').catch((error: Error) => {
    throw new Refused(`${file} cannot be read: ${error.message}`);
  });
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new Refused(`${file} is not JSON: ${(error as Error).message}`);
  }
}
