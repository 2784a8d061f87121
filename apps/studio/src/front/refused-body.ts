import type { IncomingMessage } from 'node:http';
import { FRONT } from './limits';

/** Of whoever shows no key, a wrong one, or asks too often. */
const NOT_WELCOME = new Set([401, 429]);

/**
 * Reads what is left of a body whose request is being answered, and throws it away. For a moment, because a sender that
 * is cut off at once sees a broken line instead of the answer (RFC 9112, section 9.6); and no longer than that, because
 * it would go on for ever.
 */
export function discardBody(request: IncomingMessage, status: number): void {
  const { headers, socket } = request;
  if (headers['content-length'] === undefined && headers['transfer-encoding'] === undefined) return;
  if (request.complete || request.readableEnded || request.destroyed) return;
  const refused = NOT_WELCOME.has(status);
  const most = refused ? FRONT.refusedBytes : FRONT.leftBytes;
  let read = 0;
  request.on('data', (piece: Buffer) => {
    read += piece.length;
    if (read > most) socket.destroy();
  });
  const timer = setTimeout(() => socket.destroy(), refused ? FRONT.refusedMs : FRONT.leftMs);
  const end = (): void => clearTimeout(timer);
  request.on('end', end).on('close', end).on('error', end);
}
