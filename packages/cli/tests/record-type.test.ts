import ts from 'typescript';
import fc from 'fast-check';
import type { RecordJson } from '@yucca/contract';
import { RecordType } from '../src/record-type.ts';

function declared(...records: object[]): string {
  const type = new RecordType();
  for (const record of records) type.add(record as RecordJson);
  return type.declare('PlantsRecord');
}

test('fields that all have, that some have, lists, objects in lists, several kinds in one place', () => {
  const text = declared(
    { id: 'P-1', name: 'Dog rose', price: 4, colours: ['pink'], suppliers: [{ id: 'S-1', city: 'Bree' }] },
    { id: 'P-2', name: 'Fern', price: '4 to 6', colours: [], suppliers: [{ id: 'S-2' }], 'pot size': null },
  );
  expect(text).toBe(`export type PlantsRecord = {
  id: string;
  name: string;
  price: string | number;
  colours: string[];
  suppliers: {
    id: string;
    city?: string;
  }[];
  "pot size"?: null;
};
`);
});

test('lists of several kinds and of nothing, a value that is sometimes an object, no records at all', () => {
  expect(declared({ a: [1, 'x', null], b: [], c: [[1], [2]], d: {} })).toBe(`export type PlantsRecord = {
  a: (string | number | null)[];
  b: unknown[];
  c: number[][];
  d: Record<string, never>;
};
`);
  expect(declared({ at: 'here' }, { at: { lat: 1, lng: 2 } })).toContain('at: string | {\n    lat: number;');
  expect(declared()).toBe('export type PlantsRecord = Record<string, unknown>;\n');
});

test('names that are data become one line', () => {
  const stock = Object.fromEntries(Array.from({ length: 300 }, (_, i) => [`shop-${i}`, i % 2 ? i : null]));
  expect(declared({ stock, id: '1' }, { stock: { elsewhere: 'yes' }, id: '2' })).toContain(`  stock: {
    [name: string]: string | number | null;
  };
`);
});

test('whatever the records are, TypeScript takes each of them for one', () => {
  const name = fc.oneof(fc.string({ maxLength: 6 }), fc.constantFrom('id', 'a b', 'constructor', '1st', 'größe'));
  const plain = fc.oneof(fc.string(), fc.integer(), fc.boolean(), fc.constant(null));
  const { record } = fc.letrec<{ value: unknown; record: object }>((tie) => ({
    value: fc.oneof({ maxDepth: 3 }, plain, fc.array(tie('value'), { maxLength: 3 }), tie('record')),
    record: fc.dictionary(
      name.filter((one) => one !== '__proto__'),
      tie('value'),
      { maxKeys: 5 },
    ),
  }));
  const samples = fc.sample(fc.array(record, { maxLength: 6 }), { numRuns: 60, seed: 19 });
  const source = samples
    .map((records, i) => {
      const type = new RecordType();
      for (const one of records) type.add(one as RecordJson);
      const values = records.map((one) => `const r${i}_${records.indexOf(one)}: T${i} = ${JSON.stringify(one)};`);
      return `${type.declare(`T${i}`).replace('export ', '')}${[...new Set(values)].join('\n')}`;
    })
    .join('\n');
  const file = ts.createSourceFile('records.ts', source, ts.ScriptTarget.ES2022, true);
  const options: ts.CompilerOptions = { strict: true, noEmit: true, exactOptionalPropertyTypes: true };
  const host = ts.createCompilerHost(options);
  const read = host.getSourceFile.bind(host);
  host.getSourceFile = (path, ...more) => (path === 'records.ts' ? file : read(path, ...more));
  const program = ts.createProgram(['records.ts'], options, host);
  const said = ts.getPreEmitDiagnostics(program).map(({ messageText }) => ts.flattenDiagnosticMessageText(messageText, '\n')); // prettier-ignore
  expect(said).toEqual([]);
});
