import type { Settings } from '@yucca/contract';
import { isTrue, readJson } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

export const GET = route('read', ({ params, yucca }) => Response.json(yucca.settings.get(params.collection!)));

/** The tuning becomes the draft; `?publish=true` makes it live as well. */
export const PUT = route('admin', async ({ request, url, params, yucca }) => {
  const settings: Settings = validate('Settings', await readJson(request));
  const note = url.searchParams.get('note')?.slice(0, 1000) ?? null;
  return Response.json(await yucca.settings.put(params.collection!, settings, isTrue(url, 'publish'), note));
});

export const { POST, PATCH, DELETE } = refuseOthers('GET', 'PUT');
