import { recordRoutes } from '@/http/record-routes';
import { Failure } from '@/server/failure';

/** `?key=`: for keys that no path can hold, such as `..`. */
export const { GET, POST, PUT, PATCH, DELETE } = recordRoutes(({ url }) => {
  const key = url.searchParams.get('key');
  if (key) return key;
  throw new Failure('invalid', 'key is missing: the key of the record.', [{ pointer: '/key', detail: 'is missing' }]);
});
