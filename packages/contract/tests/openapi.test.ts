import { Ajv2020 } from 'ajv/dist/2020';
import addFormats from 'ajv-formats';
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { OPERATIONS, openApiDocument, SCHEMAS } from '../src/openapi/index.ts';

const ajv = new Ajv2020({ strict: false, allErrors: true });
addFormats.default(ajv);
for (const [name, schema] of Object.entries(SCHEMAS)) ajv.addSchema({ ...schema, $id: name });

const examples = OPERATIONS.flatMap(({ id, body = [], answers }) =>
  [...body, ...Object.values(answers).flatMap((contents) => contents ?? [])]
    .filter(({ example }) => example !== undefined)
    .map(({ type, schema, example }) => [id, schema, type, example] as const),
);

test.each(examples)('the example of %s fits %s (%s)', (_, schema, __, example) => {
  // Lines are examples of one each; a list is one.
  const isList = (SCHEMAS[schema] as { type?: string }).type === 'array';
  for (const one of Array.isArray(example) && !isList ? example : [example]) {
    ajv.validate(schema, one);
    expect(ajv.errors).toBeNull();
  }
});

test('there are examples, and a wrong one would be seen', () => {
  expect(examples.length).toBeGreaterThan(20);
  expect(ajv.validate('NewKey', { label: 'x', rights: ['fly'] })).toBe(false);
  expect(ajv.validate('Problem', { type: 'x' })).toBe(false);
});

test('every operation has a name of its own, and names schemas that are there', () => {
  const ids = OPERATIONS.map(({ id }) => id);
  expect(new Set(ids).size).toBe(ids.length);
  const named = OPERATIONS.flatMap(({ body = [], answers }) =>
    [...body, ...Object.values(answers).flatMap((contents) => contents ?? [])].map(({ schema }) => schema),
  );
  expect(named.filter((name) => !(name in SCHEMAS))).toEqual([]);
});

test('an outside linter finds nothing wrong with the document', () => {
  const source = JSON.stringify(openApiDocument('http://127.0.0.1:4310', '0.1.0'));
  const lint = (input: string): string[] => {
    const { stdout, stderr } = spawnSync(process.execPath, [path.join(__dirname, 'lint-openapi.mjs')], { input });
    expect(stderr.toString()).toBe('');
    return JSON.parse(stdout.toString()) as string[];
  };
  expect(lint(source)).toEqual([]);
  expect(lint(source.replace('#/components/schemas/Tuning"', '#/components/schemas/Nothing"')).join()).toContain(
    'resolve',
  );
});
