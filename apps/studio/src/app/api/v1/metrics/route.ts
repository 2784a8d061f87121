import { callerOf } from '@/http/caller';
import { Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits, requireRight } from '@/server/keys/caller';

export const dynamic = 'force-dynamic';

/** OpenMetrics text, for whoever may administer, or for everybody when the owner said so. */
export const GET = route('none', async ({ request, yucca }) => {
  if (!yucca.config.metricsOpen) {
    const caller = callerOf(request, yucca);
    requireRight(caller, 'admin');
    requireNoLimits(caller);
  }
  const { text, contentType } = await yucca.metrics.text();
  return new Reply(text, { headers: { 'Content-Type': contentType, 'Cache-Control': 'no-store' } });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
