import type { TuningDocument } from '@yucca/contract';
import type { Incoming } from '@/http/incoming';
import { readJson } from '@/http/input';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import type { Runtime } from '@/server/runtime';

const onlyIf = (request: Incoming): string | null => request.headers.get('if-match');

const answered = (document: TuningDocument, { tunings }: Runtime): Reply =>
  json(document, { headers: { ETag: tunings.tagOf(document) } });

/** With `If-Match`, only when nobody else has changed the draft meanwhile. */
export const PUT = route('admin', async ({ request, params, yucca }) => {
  const input = await readJson(request);
  return answered(await yucca.tunings.replaceDraft(params.collection!, input, onlyIf(request)), yucca);
});

export const PATCH = route('admin', async ({ request, params, yucca }) => {
  const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
  return answered(await yucca.tunings.patchDraft(params.collection!, patch, onlyIf(request)), yucca);
});

export const DELETE = route('admin', async ({ params, yucca }) => {
  await yucca.tunings.discardDraft(params.collection!);
  return new Reply(null, { status: 204 });
});

export const { GET, POST } = refuseOthers('PUT', 'PATCH', 'DELETE');
