import { readJson } from '@/http/input';
import { refuseOthers, route } from '@/http/route';

export const PUT = route('admin', async ({ request, params, yucca }) =>
  Response.json(await yucca.tunings.replaceDraft(params.collection!, await readJson(request))),
);

export const PATCH = route('admin', async ({ request, params, yucca }) => {
  const patch = await readJson(request, ['application/merge-patch+json', 'application/json']);
  return Response.json(await yucca.tunings.patchDraft(params.collection!, patch));
});

export const DELETE = route('admin', async ({ params, yucca }) => {
  await yucca.tunings.discardDraft(params.collection!);
  return new Response(null, { status: 204 });
});

export const { GET, POST } = refuseOthers('PUT', 'PATCH', 'DELETE');
