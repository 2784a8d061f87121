import { readJson } from '@/http/input';
import { draftReply } from '@/http/draft-reply';
import { onlyIf } from '@/http/publishing';
import { Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';

/** With `If-Match`, only when nobody else has changed the draft meanwhile. */
export const PUT = route('admin', async ({ request, url, params, yucca }) => {
  const input = await readJson(request);
  const name = params.collection!;
  return draftReply(await yucca.tunings.replaceDraft(name, input, onlyIf(request)), name, url, yucca);
});

export const PATCH = route('admin', async ({ request, url, params, yucca }) => {
  const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
  const name = params.collection!;
  return draftReply(await yucca.tunings.patchDraft(name, patch, onlyIf(request)), name, url, yucca);
});

export const DELETE = route('admin', async ({ params, yucca }) => {
  await yucca.tunings.discardDraft(params.collection!);
  return new Reply(null, { status: 204 });
});

export const { GET, POST } = refuseOthers('PUT', 'PATCH', 'DELETE');
