import { setTimeout } from 'node:timers/promises';
import type { TuningDocument } from '@yucca/contract';
import type { Runtime } from '@/server/runtime';
import { isTrue } from './input';
import { json, type Reply } from './reply';

/** A build that is over in this time is waited for: most are, and nobody has to ask again. */
const PATIENCE_MS = 100;

/**
 * The draft as it is stored now. While the index is made able to answer it, 202, and where to look how far that is (RFC
 * 8288, relation `monitor`).
 */
export async function draftReply(
  document: TuningDocument,
  name: string,
  url: URL,
  { tunings }: Runtime,
): Promise<Reply> {
  const headers = { ETag: tunings.tagOf(document) };
  const building = tunings.building(name);
  if (building === null) return json(document, { headers });
  const isOver = await Promise.race([building.then(() => true), setTimeout(PATIENCE_MS, false, { ref: false })]);
  const indexing = isOver ? null : tunings.indexing(name);
  if (indexing !== null && isTrue(url, 'wait')) await indexing.ended;
  else if (indexing !== null)
    return json(document, {
      status: 202,
      headers: { ...headers, Link: `</api/v1/tasks/${indexing.taskId}>; rel="monitor"` },
    });
  return json(document, { headers });
}
