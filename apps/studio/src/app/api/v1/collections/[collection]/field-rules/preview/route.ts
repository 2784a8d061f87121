import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** What a rule would do to the records that are here. */
export const POST = route('read', async ({ request, params, caller, yucca }) => {
  if (caller.filter !== null) requireNoLimits(caller);
  return json(await yucca.fieldRules.effect(params.collection!, validate('FieldRulePreview', await readJson(request))));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
