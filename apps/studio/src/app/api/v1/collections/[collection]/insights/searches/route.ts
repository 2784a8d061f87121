import type { PastSearch, ProblemPart } from '@yucca/contract';
import { readText } from '@/http/input';
import { rangeFrom } from '@/http/insight-range';
import { bodyOf } from '@/http/pieces';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { isFailure, Failure } from '@/server/failure';
import { requireNoLimits } from '@/server/keys/caller';
import { validate } from '@/server/validate';

/** Searches counted at once: other writes come between. */
const AT_ONCE = 500;

/** The single searches that are kept, as they can be brought in elsewhere. */
export const GET = route('admin', async ({ url, params, caller, yucca }) => {
  requireNoLimits(caller);
  const lines = await bodyOf(yucca.insights.export(params.collection!, rangeFrom(url)));
  return new Reply(lines, {
    headers: {
      'Content-Type': 'application/x-ndjson; charset=utf-8',
      'Content-Disposition': `attachment; filename="${params.collection!}-searches.jsonl"`,
    },
  });
});

/** Searches of another system or another time, one JSON object a line; larger histories are sent in parts. */
export const POST = route('admin', async ({ request, params, caller, yucca }) => {
  requireNoLimits(caller);
  const lines = (await readText(request)).split('\n');
  const searches: PastSearch[] = [];
  for (let i = 0; i < lines.length; i++) {
    if (lines[i]!.trim() !== '') searches.push(searchFrom(lines[i]!, i + 1));
    // Others are answered between.
    if (i % AT_ONCE === AT_ONCE - 1) await new Promise((resolve) => setImmediate(resolve));
  }
  for (let at = 0; at < searches.length; at += AT_ONCE)
    await yucca.insights.import(params.collection!, searches.slice(at, at + AT_ONCE));
  return json({ taken: searches.length }).noting({ searches: searches.length });
});

function searchFrom(line: string, number: number): PastSearch {
  const wrong = (detail: string, parts: ProblemPart[] = []): Failure =>
    new Failure('invalid', `Line ${number}: ${detail}`, parts);
  let value: unknown;
  try {
    value = JSON.parse(line);
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
    throw wrong('is not JSON.');
  }
  try {
    return validate('PastSearch', value);
  } catch (error) {
    if (!isFailure(error)) throw error;
    throw wrong(error.message, error.parts);
  }
}

export const { PUT, PATCH, DELETE } = refuseOthers('GET', 'POST');
