import { GROUPS, OPERATIONS, type Content, type Operation, type QueryParameter } from './operations.ts';
import type { Schema } from '../schema-of.ts';
import { SCHEMAS } from './schemas.ts';

const PATH_PARAMETERS: { [name: string]: { description: string; example: string } } = {
  collection: { description: 'The name of a collection.', example: 'plants' },
  id: { description: 'A record key, or the id of a key or task; percent-encoded.', example: 'P-0042' },
  field: { description: 'The name of a facet.', example: 'colour' },
  version: { description: 'The number of a version.', example: '3' },
};

/** Failures that any operation with a key can answer. */
const FAILURES: { [status: number]: string } = {
  400: 'Not readable',
  401: 'No key, an unknown or an expired one',
  403: 'The key lacks the right, or does not reach this',
  404: 'Not there',
  422: 'Readable, but not valid: `errors` points at each bad part',
  429: 'The key asked too often; see Retry-After',
};

/** The API as an OpenAPI 3.1 document, from the same schemas that requests are validated with. */
export function openApiDocument(server: string, version: string): Schema {
  const paths: { [path: string]: { [method: string]: Schema } } = {};
  for (const operation of OPERATIONS) {
    paths[operation.path] ??= {};
    paths[operation.path]![operation.method] = describe(operation);
  }
  return {
    openapi: '3.1.0',
    jsonSchemaDialect: 'https://json-schema.org/draft/2020-12/schema',
    info: {
      title: 'Yucca',
      version,
      summary: 'Search as you type over your own records.',
      description: 'Send a key as `Authorization: Bearer <key>`; a search key may go into `?key=` instead.',
      license: { name: 'Apache-2.0', identifier: 'Apache-2.0' },
    },
    servers: [{ url: `${server}/api/v1` }],
    tags: Object.entries(GROUPS).map(([name, description]) => ({ name, description })),
    paths,
    components: {
      schemas: Object.fromEntries(Object.entries(SCHEMAS).map(([name, schema]) => [name, inDocument(schema)])),
      securitySchemes: {
        key: { type: 'http', scheme: 'bearer', description: 'A key, or a scoped token (JWT) signed with one.' },
        searchKey: { type: 'apiKey', in: 'query', name: 'key', description: 'For requests that only search.' },
      },
    },
  };
}

function describe({ id, path, right, group, summary, more, query = [], body, answers }: Operation): Schema {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    ...PATH_PARAMETERS[name!],
    schema: { type: 'string' },
  }));
  const needs = right === 'none' ? 'Needs no key.' : `Needs the right **${right}**.`;
  return {
    operationId: id,
    tags: [group],
    summary,
    description: more ? `${more}\n\n${needs}` : needs,
    security: right === 'none' ? [] : right === 'search' ? [{ key: [] }, { searchKey: [] }] : [{ key: [] }],
    parameters: [...inPath, ...query.map(inQuery)],
    ...(body ? { requestBody: { required: id !== 'publish', content: contentOf(body) } } : {}),
    responses: { ...successes(answers), ...failures(right !== 'none') },
  };
}

function inQuery({ name, description, schema, example, json }: QueryParameter): Schema {
  const shared = { name, in: 'query', description, ...(example === undefined ? {} : { example }) };
  return json ? { ...shared, content: { 'application/json': { schema } } } : { ...shared, schema };
}

function contentOf(contents: readonly Content[]): Schema {
  return Object.fromEntries(
    contents.map(({ type, schema, example }) => [
      type,
      {
        schema: type === 'text/csv' || type === 'text/plain' ? { type: 'string' } : schemaOf(schema, example),
        ...(example === undefined ? {} : { example }),
      },
    ]),
  );
}

/** Where the example is a list, so is the body: a load takes both. */
function schemaOf(name: string, example: unknown): Schema {
  const one = { $ref: `#/components/schemas/${name}` };
  return Array.isArray(example) ? { anyOf: [{ type: 'array', items: one }, one] } : one;
}

function successes(answers: Operation['answers']): { [status: string]: Schema } {
  return Object.fromEntries(
    Object.entries(answers).map(([status, contents]) => [
      status,
      contents === null
        ? { description: 'Done.' }
        : { description: status === '202' ? 'It goes on as a task.' : 'The answer.', content: contentOf(contents) },
    ]),
  );
}

function failures(keyed: boolean): { [status: string]: Schema } {
  const content = { 'application/problem+json': { schema: { $ref: '#/components/schemas/Problem' } } };
  const all = keyed ? FAILURES : { 400: FAILURES[400]! };
  return Object.fromEntries(Object.entries(all).map(([status, description]) => [status, { description, content }]));
}

/**
 * A schema inside the document: names become references. Identifiers go, because the document is the base, and so do
 * discriminators, which OpenAPI knows for named schemas only.
 */
export function inDocument(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(inDocument);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([keyword, item]) => !(keyword === '$id' && typeof item === 'string') && keyword !== 'discriminator')
      .map(([keyword, item]) => [
        keyword,
        keyword === '$ref' && typeof item === 'string'
          ? `#/components/schemas/${item.replace(/^#.*/, '')}`
          : inDocument(item),
      ]),
  );
}
