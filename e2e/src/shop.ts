import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { loadPlants, Server, somePlants } from './server';

const PLAIN = path.join(__dirname, '../../docs/guide/plain/index.html');

/** A server with the page `nursery` over 120 plants, and guides beside them. */
export async function shopServer(): Promise<Server> {
  const server = await new Server().start();
  const plants = somePlants().map((plant, i) => {
    return { ...plant, category: i % 2 ? 'Outdoor > Shrubs' : 'Indoor', stock: i % 3 };
  });
  await loadPlants(server, 'plants', plants);
  await server.call('POST', '/collections', { name: 'guides' });
  await server.call('POST', '/collections/guides/records?wait=true', [{ id: 'G-1', title: 'Lavender in pots' }]);
  await server.api('PATCH', '/collections/plants/tuning/draft', {
    search: [{ field: 'name', weight: 10 }],
    facets: [
      { name: 'category', field: 'category', kind: 'tree', separator: ' > ' },
      { name: 'colour', field: 'colour' },
      { name: 'price', field: 'price', kind: 'numbers' },
    ],
  });
  await server.api('POST', '/collections/plants/tuning/publish?wait=true', {});
  await server.api('POST', '/interfaces', { slug: 'nursery', title: 'Nursery', collection: 'plants' });
  return server;
}

/** Puts the page of the guide without a build into a folder, as `plain.html`. */
export function writePlainPage(folder: string, server: Server, key: string): void {
  const plain = readFileSync(PLAIN, 'utf8')
    .replace('https://search.example', server.base)
    .replace('YOUR-SEARCH-KEY', key);
  writeFileSync(path.join(folder, 'plain.html'), plain);
}
