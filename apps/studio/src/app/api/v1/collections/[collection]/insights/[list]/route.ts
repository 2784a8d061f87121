import { INSIGHT_LISTS, INSIGHT_SORTS, LIMITS, type InsightListName } from '@yucca/contract';
import { oneOf, wholeNumber } from '@/http/input';
import { rangeFrom, tagFrom } from '@/http/insight-range';
import { bodyOf } from '@/http/pieces';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';

/** Queries, choices or records, a page of them or all as CSV. */
export const GET = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const list = listFrom(params.list!);
  const name = params.collection!;
  const sort = url.searchParams.has('sort') ? oneOf(url, 'sort', INSIGHT_SORTS, 'count') : null;
  const q = (url.searchParams.get('q') ?? '').slice(0, LIMITS.queryLength);
  const range = rangeFrom(url);
  const tag = tagFrom(url);
  if (oneOf(url, 'format', ['json', 'csv'], 'json') === 'csv') {
    const headers = {
      'Content-Type': 'text/csv; charset=utf-8; header=present',
      'Content-Disposition': `attachment; filename="${name}-${list}.csv"`,
    };
    return new Reply(await bodyOf(yucca.insights.csv(name, range, tag, list, sort, q)), { headers });
  }
  const page = wholeNumber(url, 'page', 1, 1, 1_000_000);
  const size = wholeNumber(url, 'size', 20, 0, LIMITS.pageSize);
  return json(await yucca.insights.list(name, range, tag, { list, sort, q, page, size }));
});

function listFrom(name: string): InsightListName {
  const list = INSIGHT_LISTS.find((one) => one === name);
  if (list === undefined)
    throw new Failure('not-found', `There is no list “${name.slice(0, 40)}”. Lists: ${INSIGHT_LISTS.join(', ')}.`);
  return list;
}

export const { PUT, PATCH, POST, DELETE } = refuseOthers('GET');
