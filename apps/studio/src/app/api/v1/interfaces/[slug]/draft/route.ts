import { readJson } from '@/http/input';
import { onlyIf } from '@/http/publishing';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { tagOf } from '@/server/versions/versions';

/** With `If-Match`, only when nobody else has changed the draft meanwhile. */
export const PUT = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const draft = yucca.interfaces.replaceDraft(params.slug!, await readJson(request), onlyIf(request));
  return json(draft, { headers: { ETag: tagOf(draft) } });
});

export const PATCH = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
  const draft = yucca.interfaces.patchDraft(params.slug!, patch, onlyIf(request));
  return json(draft, { headers: { ETag: tagOf(draft) } });
});

export const DELETE = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  yucca.interfaces.discardDraft(params.slug!);
  return new Reply(null, { status: 204 });
});

export const { GET, POST } = refuseOthers('PUT', 'PATCH', 'DELETE');
