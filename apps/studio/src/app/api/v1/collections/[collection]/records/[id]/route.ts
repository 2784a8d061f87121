import { recordRoutes } from '@/http/record-routes';
import { Failure } from '@/server/failure';

/**
 * The key as the address has it: read off the path as it was sent, so that %2F, %25 and .. inside a key stay what they
 * are.
 */
export const { GET, POST, PUT, PATCH, DELETE } = recordRoutes(({ request: { rawPath } }) => {
  try {
    return decodeURIComponent(rawPath.slice(rawPath.lastIndexOf('/') + 1));
  } catch (error) {
    if (error instanceof URIError)
      throw new Failure('unreadable', 'The key in the address is not percent-encoded UTF-8.');
    throw error;
  }
});
