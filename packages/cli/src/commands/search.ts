import type { SearchAnswer } from '@yucca/contract';
import { requestJson, type Access } from '../server.ts';

export interface SearchOptions {
  filter?: string;
  facets?: string;
  sort?: string;
  fields?: string;
  size: string;
  draft?: boolean;
  json?: boolean;
}

/** Searches a collection and prints what is found: one line a result, or the whole answer as JSON. */
export async function search(access: Access, collection: string, q: string, options: SearchOptions): Promise<number> {
  const answer = await requestJson<SearchAnswer>(
    access,
    `/collections/${encodeURIComponent(collection)}/search`,
    'POST',
    {
      q,
      size: Number(options.size),
      ...(options.filter && { filter: options.filter }),
      ...(options.sort && { sort: options.sort }),
      ...(options.facets && { facets: options.facets.split(',') }),
      ...(options.fields && { fields: options.fields.split(',') }),
      ...(options.draft && { version: 'draft' }),
    },
  );
  process.stdout.write(options.json ? `${JSON.stringify(answer, null, 2)}\n` : asLines(answer));
  return 0;
}

const WIDTH = 100;

/** An answer for reading: the count, a line a result, then the facets. */
export function asLines({ total, results, facets, timing, understood }: SearchAnswer): string {
  const misread = understood.words
    .filter(({ typo }) => typo)
    .map(({ text, as }) => `“${text}” read as ${as.slice(0, 3).join(', ')}`);
  const lines = [`${total} found in ${timing.engineMs} ms${misread.length > 0 ? `; ${misread.join('; ')}` : ''}`];
  for (const { id, record } of results) {
    const texts = Object.entries(record)
      .filter(([, value]) => typeof value === 'string' && value !== id)
      .map(([, value]) => value as string);
    lines.push(`${id}\t${texts.join(' · ').replace(/\s+/g, ' ').slice(0, WIDTH)}`);
  }
  for (const [name, facet] of Object.entries(facets)) {
    if (!('values' in facet)) continue;
    lines.push(`${name}: ${facet.values.map(({ label, count }) => `${label} ${count}`).join(', ')}`);
  }
  return `${lines.join('\n')}\n`;
}
