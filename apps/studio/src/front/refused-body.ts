import type { IncomingMessage, ServerResponse } from 'node:http';
import { FRONT } from './limits';

const LOOK_EVERY_MS = 50;

/**
 * What is left of a body once its request was answered. Thrown away for a moment, because a sender that is cut off at once
 * sees a broken line instead of the answer (RFC 9112, section 9.6); and no longer than that, because it would go on for ever.
 */
export function lingerOn(request: IncomingMessage, response: ServerResponse): void {
  const { headers } = request;
  if (headers['content-length'] === undefined && headers['transfer-encoding'] === undefined) return;
  response.once('finish', () => {
    const { socket } = request;
    if (request.complete || socket.destroyed) return;
    const from = socket.bytesRead;
    const end = performance.now() + FRONT.refusedMs;
    const timer = setInterval(() => {
      const tooMuch = socket.bytesRead - from > FRONT.refusedBytes || performance.now() > end;
      if (tooMuch && !request.complete) socket.destroy();
      if (tooMuch || request.complete || socket.destroyed) clearInterval(timer);
    }, LOOK_EVERY_MS);
  });
}
