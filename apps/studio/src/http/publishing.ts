import { Failure } from '@/server/failure';
import type { Incoming } from './incoming';
import { readJson } from './input';

/** The note that a version is published with; null without one. */
export async function readNote(request: Incoming): Promise<string | null> {
  const body = request.headers.has('content-type') ? ((await readJson(request)) as { note?: unknown } | null) : {};
  const note = body?.note ?? null;
  if (note === null || (typeof note === 'string' && note.length <= 1000)) return note;
  const detail = 'must be text of at most 1 000 characters';
  throw new Failure('invalid', `note ${detail}.`, [{ pointer: '/note', detail }]);
}

/** Which version of a document is meant: `?version=`, live without it. */
export function readVersion(url: URL): 'live' | 'draft' | number {
  const version = url.searchParams.get('version') ?? 'live';
  if (version === 'live' || version === 'draft') return version;
  if (/^[1-9]\d{0,8}$/.test(version)) return Number(version);
  throw new Failure('invalid', 'version must be live, draft or a number.', [
    { pointer: '/version', detail: 'must be live, draft or a number' },
  ]);
}

/** The number of a version in a path; 0 for what is none. */
export const versionInPath = (text: string): number => (/^\d{1,9}$/.test(text) ? Number(text) : 0);

/** The tag of the draft that a change was made from. */
export const onlyIf = (request: Incoming): string | null => request.headers.get('if-match');
