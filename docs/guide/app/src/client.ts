import { createClient } from '@yucca/kit';

// A search key may stand in a page: it can do nothing but search.
export const client = createClient({
  base: import.meta.env.VITE_YUCCA_SERVER,
  key: import.meta.env.VITE_YUCCA_KEY,
});
