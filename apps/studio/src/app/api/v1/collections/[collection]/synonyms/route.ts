import { oneOf } from '@/http/input';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { synonymsToCsv } from '@/server/synonyms/csv';
import { synonymsToTurtle } from '@/server/synonyms/skos';
import { completeTuning } from '@yucca/contract';

/** The synonyms of live or of the draft: JSON, CSV, or a SKOS vocabulary as Turtle. */
export const GET = route('read', async ({ url, params, yucca }) => {
  const version = oneOf(url, 'version', ['live', 'draft'], 'live');
  const format = oneOf(url, 'format', ['json', 'csv', 'turtle'], 'json');
  const { synonyms, language } = completeTuning(yucca.tunings.get(params.collection!, version));
  if (format === 'json') return json({ groups: synonyms });
  const isCsv = format === 'csv';
  return new Reply(isCsv ? synonymsToCsv(synonyms) : await synonymsToTurtle(synonyms, language), {
    headers: { 'Content-Type': isCsv ? 'text/csv; charset=utf-8' : 'text/turtle; charset=utf-8' },
  });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
