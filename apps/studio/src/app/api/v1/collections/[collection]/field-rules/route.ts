import { isTrue, readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

export const GET = route('read', ({ params, yucca }) => json({ rules: yucca.fieldRules.get(params.collection!) }));

/**
 * Rules hold for whatever is written from now on; `?apply=true` brings the records that are here in line, as a task.
 */
export const PUT = route('admin', async ({ request, url, params, yucca }) => {
  const apply = isTrue(url, 'apply');
  const wait = isTrue(url, 'wait');
  const name = params.collection!;
  const rules = yucca.fieldRules.set(name, validate('FieldRules', await readJson(request)).rules);
  if (!apply) return json({ rules });
  const { task, ended } = yucca.fieldRules.apply(name);
  if (wait) return json({ rules, task: await ended });
  return json({ rules, task }, { status: 202, headers: { Location: `/api/v1/tasks/${task.id}` } });
});

export const { POST, PATCH, DELETE } = refuseOthers('GET', 'PUT');
