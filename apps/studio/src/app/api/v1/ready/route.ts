import { callerOf } from '@/http/caller';
import { json } from '@/http/reply';
import { refuseOthers, route, type RouteContext } from '@/http/route';
import { isFailure } from '@/server/failure';
import { hasRight } from '@/server/keys/caller';
import { readinessOf, withoutNames } from '@/server/operations/readiness';

export const dynamic = 'force-dynamic';

/** 200 when everything can be searched and stored, else 503 with what is missing. */
export const GET = route('none', (context) => {
  const all = readinessOf(context.yucca);
  const ready = all.status === 'ready';
  return json(mayKnowNames(context) ? all : withoutNames(all), {
    status: ready ? 200 : 503,
    headers: { 'Cache-Control': 'no-store', ...(ready ? {} : { 'Retry-After': '2' }) },
  });
});

function mayKnowNames({ request, yucca }: RouteContext): boolean {
  try {
    const caller = callerOf(request, yucca);
    return hasRight(caller, 'admin') && caller.collections === null;
  } catch (error) {
    if (isFailure(error)) return false;
    throw error;
  }
}

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
