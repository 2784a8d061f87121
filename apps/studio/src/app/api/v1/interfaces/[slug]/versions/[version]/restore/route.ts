import { versionInPath } from '@/http/publishing';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';
import { tagOf } from '@/server/versions/versions';

/** Makes an old version the draft; publishing it is another step. */
export const POST = route('admin', ({ params, caller, yucca }) => {
  requireNoLimits(caller);
  const version = versionInPath(params.version!);
  if (version === 0) throw new Failure('not-found', `There is no version “${params.version}”.`);
  const draft = yucca.interfaces.replaceDraft(params.slug!, yucca.interfaces.get(params.slug!, version).document);
  return json(draft, { headers: { ETag: tagOf(draft) } }).noting({ from: version, to: 'draft' });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
