import { loadPlants, Server, somePlants } from '../src/server';

const CONNECTIONS = 16;
/** At least; and until so many queries were asked meanwhile, however fast either is. */
const PUBLISHES = 12;
const QUERIES = 200;
let server: Server;

beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants', somePlants(3000));
});
afterAll(() => server.leave());

interface Answer {
  total: number;
  generation: number;
  facets: Record<string, unknown>;
}

/** Two tunings that cannot be mistaken for each other: by what “frost” finds, and by the facets they have. */
const TUNINGS = [
  { search: [{ field: 'name', weight: 1 }], facets: [{ name: 'colour', field: 'colour' }] },
  { search: [{ field: 'care', weight: 1 }], facets: [{ name: 'cost', field: 'price', kind: 'numbers' }] },
] as const;
const LOOKS = ['0 colour', '3000 cost'];

test('publishing under sixteen connections: no query fails, and none is answered half by one and half by the other', async () => {
  const publish = async (tuning: object): Promise<void> => {
    await server.api('PUT', '/collections/plants/tuning/draft', tuning);
    await server.api('POST', '/collections/plants/tuning/publish?wait=true', {});
  };
  await publish(TUNINGS[0]);
  const seen = new Map<number, Set<string>>();
  const failures: string[] = [];
  let asked = 0;
  let over = false;
  const visitor = async (): Promise<void> => {
    while (!over) {
      const response = await server.call('GET', '/collections/plants/search?q=frost&size=2&facets=*');
      asked++;
      if (!response.ok) {
        failures.push(`${response.status} ${await response.text()}`);
        continue;
      }
      const { total, generation, facets } = (await response.json()) as Answer;
      const looks = seen.get(generation) ?? new Set();
      seen.set(generation, looks.add(`${total} ${Object.keys(facets).join()}`));
    }
  };
  const visitors = Array.from({ length: CONNECTIONS }, visitor);
  for (let i = 1; i <= PUBLISHES || asked <= QUERIES; i++) await publish(TUNINGS[i % 2]!);
  over = true;
  await Promise.all(visitors);

  expect(failures).toEqual([]);
  // Every answer is wholly of one tuning, and all of one generation are of the same.
  for (const [generation, looks] of seen) {
    expect([generation, looks.size]).toEqual([generation, 1]);
    expect(LOOKS).toContain([...looks][0]);
  }
  // Both were seen, many times over.
  expect(new Set([...seen.values()].flatMap((looks) => [...looks]))).toEqual(new Set(LOOKS));
});
