import { randomUUID } from 'node:crypto';
import type { RemoteThread } from '../workers/rpc';
import type { ScanMethods } from '../workers/scan-worker';

/** What the scan thread makes piece by piece, no faster than it is taken; ended there when nobody takes it any more. */
export async function* inPieces(
  scan: RemoteThread<ScanMethods>,
  begin: (id: string) => Promise<void>,
): AsyncGenerator<string | Uint8Array> {
  const id = randomUUID();
  await begin(id);
  try {
    for (;;) {
      const piece = await scan.call('nextPiece', [id]);
      if (piece === null) return;
      yield piece;
    }
  } finally {
    scan.send('piecesEnd', [id]);
  }
}
