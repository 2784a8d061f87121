import type { IncomingMessage } from 'node:http';
import { Failure } from '@/server/failure';
import { FRONT } from './limits';

/** Methods that anything here takes. */
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);
const ALLOW = [...METHODS].join(', ');

/** A path in its parts, each percent-decoded by itself, so that what is escaped stays inside its part. */
export interface Target {
  parts: string[];
  /** The path ends in a slash. */
  trailing: boolean;
}

/** A method that nothing here takes; `allow` names those that something does. */
export class MethodUnknown extends Failure {
  readonly allow = ALLOW;

  constructor(method: string) {
    super('wrong-method', `Nothing here takes ${method.slice(0, 40)}.`);
  }
}

/** Looks at a request before anything of it is read. Throws a Failure with what is wrong with it. */
export function checkTarget(request: IncomingMessage): Target {
  const { method = 'GET', url = '/' } = request;
  if (!METHODS.has(method)) throw new MethodUnknown(method);
  if (url.length > FRONT.addressBytes)
    throw new Failure('too-long', `An address may have ${FRONT.addressBytes} bytes.`);
  if (request.rawHeaders.length / 2 > FRONT.headers)
    throw new Failure('too-many-headers', `A request may have ${FRONT.headers} headers.`);
  if (request.headers.host === undefined) throw new Failure('unreadable', 'The header Host is missing.');
  const length = request.headers['content-length'];
  if (length !== undefined && request.headers['transfer-encoding'] !== undefined)
    throw new Failure('unreadable', 'A body has a length or comes in chunks, not both.');
  if (url === '*' && method === 'OPTIONS') return { parts: ['*'], trailing: false };
  if (!url.startsWith('/')) throw new Failure('unreadable', 'The address should begin with “/”.');
  const query = url.indexOf('?');
  const path = query === -1 ? url : url.slice(0, query);
  const trailing = path.length > 1 && path.endsWith('/');
  const raw = path.slice(1, trailing ? -1 : undefined).split('/');
  return { trailing, parts: path.includes('%') ? raw.map(decode) : raw };
}

function decode(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch (error) {
    if (error instanceof URIError)
      throw new Failure('unreadable', `“${part.slice(0, 60)}” in the address is not percent-encoded UTF-8.`);
    throw error;
  }
}
