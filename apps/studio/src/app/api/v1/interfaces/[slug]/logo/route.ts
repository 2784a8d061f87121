import { LIMITS } from '@yucca/contract';
import { readBytes } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireNoLimits } from '@/server/keys/caller';

/** Takes in a logo for a page; its design names the file that is answered. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const slug = params.slug!;
  // One byte more than may be is enough to say so.
  const file = yucca.interfaces.addLogo(slug, await readBytes(request, LIMITS.logoBytes + 1024));
  return json({ file, address: `/s/${encodeURIComponent(slug)}/logo/${file}` }, { status: 201 });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
