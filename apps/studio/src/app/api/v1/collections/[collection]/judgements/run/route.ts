import type { JudgementRun } from '@yucca/contract';
import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { validate } from '@/server/validate';

/** Scores live and draft. Many queries are best asked in parts, so that there is progress to be seen. */
export const POST = route('admin', async ({ request, params, yucca }) => {
  const { queries }: JudgementRun = validate('JudgementRun', await readJson(request));
  return json(await yucca.judgements.run(params.collection!, queries ?? null, request.signal));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
