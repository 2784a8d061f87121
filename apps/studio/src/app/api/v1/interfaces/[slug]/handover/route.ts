import { HANDOVER_TARGETS } from '@yucca/contract';
import { oneOf, readJson } from '@/http/input';
import { readVersion } from '@/http/publishing';
import { bodyOf } from '@/http/pieces';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { baseOf } from '@/http/visitor-address';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** The page as files to take away. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const wanted = validate('Handover', await readJson(request));
  const server = baseOf(request.headers, yucca.config.publicUrl);
  const { pieces, fileName, madeKey, version } = await yucca.handovers.make(params.slug!, wanted, server);
  const headers = { 'Content-Type': 'application/zip', 'Content-Disposition': `attachment; filename="${fileName}"` };
  return new Reply(await bodyOf(pieces), { headers }).noting({
    target: wanted.target,
    key: madeKey?.id ?? null,
    version,
  });
});

/** Its files as they would be taken away. */
export const GET = route('admin', async ({ request, url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const target = oneOf(url, 'target', HANDOVER_TARGETS, 'html');
  const server = baseOf(request.headers, yucca.config.publicUrl);
  return json(await yucca.handovers.see(params.slug!, target, server, readVersion(url)));
});

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
