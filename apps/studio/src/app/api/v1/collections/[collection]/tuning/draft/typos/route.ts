import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';

/** Words of the data that the draft's typo rules take for others than live's do. */
export const GET = route('admin', async ({ params, asking, yucca }) =>
  json(await yucca.search.typoExamples(params.collection!, asking)),
);

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
