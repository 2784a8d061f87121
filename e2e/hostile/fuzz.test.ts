/**
 * Every route of the description with generated parameters and bodies: no answer is a 5xx but 503, and the server
 * stays.
 */
import { OPERATIONS, SCHEMAS } from '@yucca/contract/openapi';
import fc from 'fast-check';
import { loadPlants, Server } from '../src/server';

/** Half an hour in a long run. */
const SECONDS = Number(process.env.YUCCA_FUZZ_SECONDS ?? 20);
jest.setTimeout(SECONDS * 1000 + 900_000);
let server: Server;
beforeAll(async () => {
  server = await new Server().start();
  await loadPlants(server, 'plants');
});
afterAll(() => server.leave());

type Schema = Record<string, unknown>;
const schemas = SCHEMAS as Record<string, Schema>;

/** Values that fit a schema, mostly: near misses are what finds mistakes. */
function fitting(schema: Schema | undefined, depth = 0): fc.Arbitrary<unknown> {
  if (schema === undefined || depth > 5) return fc.jsonValue({ maxDepth: 2 });
  if (typeof schema.$ref === 'string') return fitting(schemas[schema.$ref.split('/').at(-1)!], depth + 1);
  if (Array.isArray(schema.enum)) return fc.constantFrom(...(schema.enum as unknown[]));
  if (schema.const !== undefined) return fc.constant(schema.const);
  const either = (schema.anyOf ?? schema.oneOf) as Schema[] | undefined;
  if (either) return fc.oneof(...either.map((one) => fitting(one, depth + 1)));
  const type = Array.isArray(schema.type) ? (schema.type as string[])[0] : schema.type;
  if (type === 'object' || schema.properties) return object(schema, depth);
  if (type === 'array')
    return fc.array(fitting(schema.items as Schema | undefined, depth + 1), {
      maxLength: Math.min(4, Number(schema.maxItems ?? 4)),
    });
  if (type === 'integer') return fc.oneof(fc.integer({ min: Number(schema.minimum ?? -5), max: Math.max(Number(schema.minimum ?? -5), Number(schema.maximum ?? 1000)) }), fc.maxSafeInteger()); // prettier-ignore
  if (type === 'number') return fc.double({ noNaN: true, noDefaultInfinity: true });
  if (type === 'boolean') return fc.boolean();
  if (type === 'null') return fc.constant(null);
  return TEXTS;
}

function object(
  { properties = {}, required = [], additionalProperties }: Schema,
  depth: number,
): fc.Arbitrary<unknown> {
  const known = Object.fromEntries(
    Object.entries(properties as Record<string, Schema>).map(([name, schema]) => [name, fitting(schema, depth + 1)]),
  );
  const named = fc.record(known, { requiredKeys: required as string[] });
  return additionalProperties === undefined || additionalProperties === true
    ? fc
        .tuple(named, fc.dictionary(TEXTS, fc.jsonValue({ maxDepth: 2 }), { maxKeys: 3 }))
        .map(([a, b]) => ({ ...b, ...(a as object) }))
    : named;
}

const FIELDS = ['id', 'name', 'colour', 'care', 'price', 'a.b', '__proto__', 'constructor', '', '*'];
const TEXTS: fc.Arbitrary<string> = fc.oneof(
  fc.string({ unit: 'grapheme', maxLength: 12 }),
  fc.string({ unit: 'binary', maxLength: 8 }),
  fc.constantFrom(
    ...FIELDS,
    'plants',
    'lavender',
    'live',
    'draft',
    "price < 3 AND name LIKE 'a%'",
    '((',
    "'",
    '-1',
    '2026-01-01',
  ),
);

const PROBLEMS = (status: number): boolean => status < 500 || status === 503;
/** What would take the ground away from under the others. */
const SPARED = new Set(['deleteCollection', 'watchTask', 'makeBackup', 'checkIntegrity']);
const operations = OPERATIONS.filter(({ id }) => !SPARED.has(id));

const request = fc.constantFrom(...operations).chain((operation) =>
  fc.record({
    operation: fc.constant(operation),
    path: fc.dictionary(fc.constantFrom('collection', 'id', 'field', 'slug', 'version'), TEXTS),
    sane: fc.boolean(),
    query: fc.dictionary(
      fc.constantFrom(...(operation.query ?? []).map(({ name }) => name), 'q', 'wait', 'key'),
      TEXTS,
      { maxKeys: 4 },
    ),
    body: fc.oneof(
      { weight: 4, arbitrary: fitting(operation.body?.[0] ? schemas[operation.body[0].schema] : undefined) },
      { weight: 1, arbitrary: fc.jsonValue({ maxDepth: 4 }) },
    ),
    broken: fc.boolean(),
  }),
);

test(`${SECONDS} s of generated requests`, async () => {
  const end = Date.now() + SECONDS * 1000;
  let asked = 0;
  const statuses = new Map<number, number>();
  while (Date.now() < end) {
    for (const { operation, path, sane, query, body, broken } of fc.sample(request, 200)) {
      const known: Record<string, string> = {
        collection: 'plants',
        id: 'P-001',
        field: 'colour',
        slug: 'plants',
        version: '1',
      };
      const given = sane ? known : { ...known, ...path };
      const route = operation.path.replace(/\{(\w+)\}/g, (_, name: string) =>
        encodeURIComponent(given[name] || 'x').replace(/^\.\.?$/, 'x'),
      );
      const search = new URLSearchParams(query).toString();
      const type = operation.body?.[0]?.type ?? 'application/json';
      const text = type.includes('json') ? JSON.stringify(body) : String(JSON.stringify(body));
      const sent =
        operation.method === 'get' ? undefined : broken && text ? text.slice(0, Math.ceil(text.length / 2)) : text;
      const response = await server.call(
        operation.method.toUpperCase(),
        `${route}?${search}`,
        sent,
        sent === undefined ? {} : { 'Content-Type': type },
      );
      const answer = await response.text();
      asked++;
      statuses.set(response.status, (statuses.get(response.status) ?? 0) + 1);
      if (!PROBLEMS(response.status))
        throw new Error(`${operation.method} ${route}?${search} ${sent} → ${response.status} ${answer}`);
    }
  }
  expect(server.alive).toBe(true);
  expect(asked).toBeGreaterThan(SECONDS * 5);
  // Not everything is refused at the door: some of it does something.
  expect(statuses.get(200) ?? 0).toBeGreaterThan(asked / 20);
  const again = await server.call('GET', '/collections/plants/search?q=lavender');
  expect(again.status).toBe(200);
});
