import { draftReply } from '@/http/draft-reply';
import { versionInPath } from '@/http/publishing';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';

/** Makes an old version the draft; publishing it is another step. */
export const POST = route('admin', async ({ url, params, yucca }) => {
  const version = versionInPath(params.version!);
  if (version === 0) throw new Failure('not-found', `There is no tuning version “${params.version}”.`);
  const name = params.collection!;
  const draft = await yucca.tunings.replaceDraft(name, yucca.tunings.get(name, version));
  return (await draftReply(draft, name, url, yucca)).noting({ from: version, to: 'draft' });
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
