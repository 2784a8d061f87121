import { createReadStream } from 'node:fs';
import { Reply } from '@/http/reply';
import { refuseOthers, route } from '@/http/route';
import { requireCollection } from '@/server/keys/caller';

/** The lines of a load that failed, whole and in the form they came in, to be mended and loaded again. */
export const GET = route('write', ({ request, params, caller, yucca }) => {
  const { collection } = yucca.tasks.get(params.id!);
  requireCollection(caller, collection);
  const file = yucca.records.failedLines(params.id!);
  return new Reply(request.method === 'HEAD' ? null : createReadStream(file), {
    headers: {
      'Content-Type': 'text/plain; charset=utf-8',
      'Content-Disposition': `attachment; filename="${collection}-failed-lines.txt"`,
    },
  });
});

export const { POST, PUT, PATCH, DELETE } = refuseOthers('GET');
