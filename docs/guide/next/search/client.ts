import { createClient } from '@yucca/kit';

// The server asks for the first results, the browser for all that follow.
export const client = createClient({
  base: process.env.NEXT_PUBLIC_YUCCA_SERVER ?? '',
  key: process.env.NEXT_PUBLIC_YUCCA_KEY ?? '',
});
