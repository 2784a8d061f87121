import { oneOf } from '@/http/input';
import { refuseOthers, route } from '@/http/route';
import { synonymsToCsv } from '@/server/synonyms/csv';
import { synonymsToTurtle } from '@/server/synonyms/skos';
import { completeTuning } from '@yucca/contract';

/** The synonyms of live or of the draft: JSON, CSV, or a SKOS vocabulary as Turtle. */
export const GET = route('read', async ({ url, params, yucca }) => {
  const version = oneOf(url, 'version', ['live', 'draft'], 'live');
  const format = oneOf(url, 'format', ['json', 'csv', 'turtle'], 'json');
  const { synonyms, language } = completeTuning(yucca.tunings.get(params.collection!, version));
  if (format === 'json') return Response.json({ groups: synonyms });
  const isCsv = format === 'csv';
  return new Response(isCsv ? synonymsToCsv(synonyms) : await synonymsToTurtle(synonyms, language), {
    headers: { 'Content-Type': isCsv ? 'text/csv; charset=utf-8' : 'text/turtle; charset=utf-8' },
  });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
