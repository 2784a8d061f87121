import { charsetSaid, readBytes } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';

/** What a load of a file would propose, told from the file or its beginning. */
export const POST = route('write', async ({ request, url, yucca }) => {
  const charset = charsetSaid(request);
  const bytes = await readBytes(request);
  const name = (url.searchParams.get('name') ?? '').slice(0, 200);
  const told = await yucca.inspect(bytes, name, charset);
  if (typeof told === 'string') throw new Failure('unsupported-type', told);
  return json(told);
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
