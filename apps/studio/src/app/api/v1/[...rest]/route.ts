import { route } from '@/http/route';
import { Failure } from '@/server/failure';

const unknown = route('none', ({ url }) => {
  throw new Failure('not-found', `There is nothing at ${url.pathname}.`);
});

export { unknown as DELETE, unknown as GET, unknown as PATCH, unknown as POST, unknown as PUT };
