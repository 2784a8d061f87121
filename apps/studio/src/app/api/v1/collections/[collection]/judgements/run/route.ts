import type { JudgementRun } from '@yucca/contract';
import { readJson } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { lastDays } from '@/server/insights/insights';
import { validate } from '@/server/validate';

/** Days whose clicks make judgements. */
const JUDGED_DAYS = 90;

/** Scores live and draft. Many queries are best asked in parts, so that there is progress to be seen. */
export const POST = route('admin', async ({ request, params, yucca }) => {
  const { queries, by = 'hand' }: JudgementRun = validate('JudgementRun', await readJson(request));
  const name = params.collection!;
  const from = by === 'hand' ? null : (await yucca.insights.judgements(name, lastDays(JUDGED_DAYS))).judgements;
  return json(await yucca.judgements.run(name, queries ?? null, from, request.signal));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
