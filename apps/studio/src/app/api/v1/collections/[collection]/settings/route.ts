import type { Settings } from '@yucca/contract';
import { isTrue, readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { forCaller } from '@/server/tuning/for-caller';
import { validate } from '@/server/validate';

export const GET = route('read', ({ params, caller, yucca }) => {
  const settings = yucca.settings.get(params.collection!);
  return json({ ...settings, tuning: forCaller(settings.tuning, caller) });
});

/** The tuning becomes the draft; `?publish=true` makes it live as well. */
export const PUT = route('admin', async ({ request, url, params, yucca }) => {
  const settings: Settings = validate('Settings', await readJson(request));
  const note = url.searchParams.get('note')?.slice(0, 1000) ?? null;
  return json(await yucca.settings.put(params.collection!, settings, isTrue(url, 'publish'), note));
});

export const { POST, PATCH, DELETE } = refuseOthers('GET', 'PUT');
