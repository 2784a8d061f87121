import { createClient } from '../src/client.ts';
import { withStanding, type Standing } from '../src/standing-client.ts';

/** A server that answers nothing, and what it was asked for. */
function listening(standing: Standing) {
  const asked: { url: URL; queries: { [name: string]: unknown }[] }[] = [];
  const fetch = (async (url: string, { body }: RequestInit = {}) => {
    const { queries = [] } = JSON.parse((body as string | undefined) ?? '{}') as { queries?: { [name: string]: unknown }[] }; // prettier-ignore
    asked.push({ url: new URL(url, 'https://shop.example'), queries });
    return new Response(JSON.stringify({ answers: queries.map(() => ({ suggestions: [] })), suggestions: [] }));
  }) as typeof globalThis.fetch;
  const client = withStanding(createClient({ fetch }), { plants: standing });
  const said = (name: string): (string | null)[] => asked.map(({ url }) => url.searchParams.get(name));
  return { client, asked, said };
}

const IN_STOCK = { filter: 'stock > 0', tags: ['member'] };

test('belongs to each way of asking a collection: results, values of a filter, completions, several at once', async () => {
  const { client, asked, said } = listening(IN_STOCK);
  await client.search('plants', { q: 'fern' });
  await client.facetValues('plants', 'colour', 'gr', { q: 'fern' });
  await client.suggest('plants', 'fe', 4);
  expect(said('filter')).toEqual(['stock > 0', 'stock > 0', 'stock > 0']);
  expect(said('tags')).toEqual(['member', null, null]);
  await Promise.all([
    client.suggest('plants', 'fer', 4),
    client.multiSearch([
      { collection: 'plants', q: 'fer' },
      { collection: 'guides', q: 'fer' },
    ]),
  ]);
  expect(asked.at(-1)!.queries).toEqual([
    { collection: 'plants', suggest: { q: 'fer', size: 4, filter: 'stock > 0' } },
    { collection: 'plants', q: 'fer', filter: 'stock > 0', tags: ['member'] },
    { collection: 'guides', q: 'fer' },
  ]);
});

test('what is asked for besides holds as well', async () => {
  const { client, said } = listening(IN_STOCK);
  await client.search('plants', { filter: 'price < 5 OR height < 1', tags: ['sale'] });
  await client.facetValues('plants', 'colour', 'gr', { filter: 'price < 5' });
  expect(said('filter')).toEqual(['(stock > 0) AND (price < 5 OR height < 1)', '(stock > 0) AND (price < 5)']);
  expect(said('tags')[0]).toBe('member,sale');
});

test('fields come on top of those that are asked for, and a place holds until the visitor says another', async () => {
  const { client, asked, said } = listening({ fields: ['badge', 'name'], near: { lat: 52.1, lng: 4.3 } });
  await client.search('plants', { q: 'fern', fields: ['name', 'price'] });
  await client.search('plants', { q: 'fern', near: { lat: 1, lng: 2, withinM: 500 } });
  expect(said('fields')).toEqual(['name,price,badge', null]);
  expect(said('near')).toEqual(['52.1,4.3', '1,2']);
  await client.facetValues('plants', 'colour', 'gr', {});
  expect(said('near').at(-1)).toBe('52.1,4.3');
  await client.multiSearch([
    { collection: 'plants', q: 'fer' },
    { collection: 'guides', q: 'fer' },
  ]);
  expect(asked.at(-1)!.queries).toEqual([
    { collection: 'plants', q: 'fer', near: { lat: 52.1, lng: 4.3 } },
    { collection: 'guides', q: 'fer' },
  ]);
});

test('of a collection that nothing belongs to, everything; a name of every object is none', async () => {
  const { client, asked } = listening({});
  await client.search('plants', { q: 'fern' });
  await client.search('constructor', { q: 'fern' });
  expect(asked.map(({ url }) => url.search)).toEqual(['?q=fern', '?q=fern']);
});
