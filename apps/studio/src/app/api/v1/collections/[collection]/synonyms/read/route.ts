import { mediaType, readText } from '@/http/input';
import { json } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { synonymsFromCsv } from '@/server/synonyms/csv';
import { synonymsFromSkos } from '@/server/synonyms/skos';

const TYPES = ['text/csv', 'text/turtle', 'application/rdf+xml', 'application/ld+json'] as const;

/** Reads a file of synonyms and returns what is in it; nothing is saved. */
export const POST = route('admin', async ({ request, params, yucca }) => {
  yucca.collections.row(params.collection!);
  const sent = mediaType(request);
  const type = TYPES.find((one) => one === sent);
  if (type === undefined)
    throw new Failure('unsupported-type', `Send ${TYPES.join(', ')}; this came as “${sent || 'nothing'}”.`);
  const text = await readText(request);
  return json(type === 'text/csv' ? synonymsFromCsv(text) : await synonymsFromSkos(text, type));
});

export const { GET, PUT, PATCH, DELETE } = refuseOthers('POST');
