import type { JudgementChanges, Judgements } from '@yucca/contract';
import { parseQrels, printQrels } from '@yucca/engine/judge';
import { mediaType, readJson, readText } from '@/http/input';
import type { Incoming } from '@/http/incoming';
import { json, Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { Failure } from '@/server/failure';
import { validate } from '@/server/validate';

/** JSON, or TREC qrels for whoever asks for text. */
export const GET = route('admin', ({ request, params, yucca }) => {
  const judgements = yucca.judgements.list(params.collection!);
  if (!(request.headers.get('accept') ?? '').includes('text/plain')) return json({ judgements });
  return new Reply(printQrels(judgements), { headers: { 'Content-Type': 'text/plain; charset=utf-8' } });
});

/** Takes the place of all judgements: JSON, or TREC qrels as `text/plain`. */
export const PUT = route('admin', async ({ request, params, yucca }) => {
  const { judgements }: Judgements = validate('Judgements', await bodyOf(request));
  return json({ judgements: yucca.judgements.replace(params.collection!, judgements) });
});

export const PATCH = route('admin', async ({ request, params, yucca }) => {
  const types = ['application/merge-patch+json', 'application/json'];
  const { judgements }: JudgementChanges = validate('JudgementChanges', await readJson(request, types));
  return json({ judgements: yucca.judgements.change(params.collection!, judgements) });
});

async function bodyOf(request: Incoming): Promise<unknown> {
  if (mediaType(request) !== 'text/plain') return readJson(request, ['application/json', 'text/plain']);
  const { judgements, errors } = parseQrels(await readText(request));
  if (errors.length > 0)
    throw new Failure(
      'invalid',
      `${errors.length} of the lines cannot be read, the first is line ${errors[0]!.line}.`,
      errors.slice(0, 20).map(({ line, detail }) => ({ pointer: `/${line}`, detail })),
    );
  return { judgements };
}

export const { POST, DELETE } = refuseOthers('GET', 'PUT', 'PATCH');
