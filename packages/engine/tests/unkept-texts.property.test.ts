import { completeTuning, type RecordJson } from '@yucca/contract';
import fc from 'fast-check';
import { fnvOfText } from '../src/bytes/fnv.ts';
import { docsWithHash, TextHashesBuilder } from '../src/columns/text-hashes.ts';
import { Work } from '../src/filter/cost.ts';
import { evaluate } from '../src/filter/evaluate.ts';
import { parseFilter } from '../src/filter/parse.ts';
import { generationOf, runs } from './arbitraries.ts';
import { decide, print, type ReferenceCondition } from './reference/filter.ts';

const MANY = 2_600;
// Nearly every record has a text of its own in three fields, in one of them with some that lack it, share it, or hold
// several.
const records = Array.from({ length: MANY }, (_, i): RecordJson => {
  const note = i % 11 === 0 ? [`note ${i}`, `note ${i + 1}`] : i % 13 === 0 ? 'shared' : `note ${i}`;
  return {
    id: `@${['part', 'parts', 'p_t', 'großes'][i % 4]}/${i}`,
    name: i % 3 === 0 ? `name é ${i}/end` : `name é ${i}`,
    ...(i % 7 === 0 ? {} : { note }),
    ...(i % 5 === 0 ? { mixed: i } : { mixed: `mixed ${i}` }),
  };
});
const { segment } = generationOf(records, completeTuning({ search: [{ field: 'name' }] })).segments[0]!;

const field = fc.constantFrom('id', 'name', 'note', 'mixed');
const text = fc.oneof(
  fc.nat(MANY).map((i) => records[i % MANY]!.id as string),
  fc.nat(MANY + 20).map((i) => `name é ${i}`),
  fc.nat(MANY + 20).map((i) => `note ${i}`),
  fc.nat(MANY).map((i) => `mixed ${i}`),
  fc.constantFrom('shared', '', 'absent', '@part/', '@part/1'),
);
const simple: fc.Arbitrary<ReferenceCondition> = fc.oneof(
  fc.record({
    op: fc.constant('compare' as const),
    field,
    sign: fc.constantFrom('=' as const, '<>' as const),
    value: fc.oneof<fc.Arbitrary<string | number>[]>(text, fc.integer({ min: 0, max: 50 })),
  }),
  fc.record({ op: fc.constant('in' as const), field, values: fc.array(text, { minLength: 1, maxLength: 40 }) }),
  fc.record({
    op: fc.constant('like' as const),
    field: fc.constant('id'),
    pattern: fc.constantFrom('@part/%', '@parts/1%', '@p_t/12_', '@gro%/7', '@p%1', '@part/100'),
  }),
  fc.record({
    op: fc.constant('like' as const),
    field: fc.constant('name'),
    pattern: fc.constantFrom(
      'name é 1%',
      'name é 77',
      'Name é %',
      'name é %7',
      'name e 1%',
      'name _ 1%',
      'name%',
      'name é 78/e%',
      'name é 78/_nd',
      'name é 79/%',
    ),
  }),
  fc.record({ op: fc.constant('null' as const), field }),
);
const condition = fc.oneof(
  { weight: 3, arbitrary: simple },
  { weight: 1, arbitrary: simple.map((part): ReferenceCondition => ({ op: 'not', part })) },
  {
    weight: 1,
    arbitrary: fc
      .array(simple, { minLength: 2, maxLength: 3 })
      .chain((parts) => fc.constantFrom<ReferenceCondition>({ op: 'and', parts }, { op: 'or', parts })),
  },
);

test('conditions on texts that nearly every record has of its own are what the records say', () => {
  expect(['id', 'name', 'note', 'mixed'].map((one) => segment.keepsValues(one))).toEqual([false, false, false, false]);
  expect(['id', 'name'].map((one) => segment.isKey(one))).toEqual([true, false]);
  fc.assert(
    fc.property(condition, (one) => {
      const found = evaluate(segment, parseFilter(print(one))).list();
      expect([...found]).toEqual(records.flatMap((record, doc) => (decide(record, one) === true ? [doc] : [])));
    }),
    runs(300),
  );
});

test('they are found without reading the records: what is allowed for a search is plenty', () => {
  const ids = Array.from({ length: 40 }, (_, i) => `'${records[i * 3]!.id as string}'`);
  const count = (source: string): number => evaluate(segment, parseFilter(source), new Work(400_000)).count();
  expect(count(`id = ${ids[5]}`)).toBe(1);
  expect(count(`id <> ${ids[5]}`)).toBe(MANY - 1);
  expect(count(`id IN (${ids.join(', ')})`)).toBe(40);
  expect(count(`id NOT IN (${ids.join(', ')})`)).toBe(MANY - 40);
  expect(count("id LIKE '@part/%'")).toBe(MANY / 4);
  expect(count("name = 'name é 77'")).toBe(1);
  // Words that end inside of the beginning say which records to read.
  expect(count("name LIKE 'name é 78/%'")).toBe(1);
  expect(count("name LIKE 'name é 79/%'")).toBe(0);
  expect(() => count("name LIKE 'name é 7%'")).toThrow('own in “name”');
  expect(() => count("note LIKE 'note 7/%'")).toThrow('own in “note”');
  expect(() => count("name LIKE '%7'")).toThrow('own in “name”');
});

test('a column that is given up half-way has hashes of what came before and after', () => {
  const many = Array.from({ length: 24_000 }, (_, i): RecordJson => {
    if (i % 1_000 === 7) return { id: `r${i}` };
    return { id: `r${i}`, code: i % 1_000 === 9 ? [`c${i}`, 'twice'] : i % 500 === 1 ? 'shared' : `c${i}` };
  });
  const [whole] = generationOf(many, completeTuning({ search: [{ field: 'id' }] })).segments;
  expect(whole!.segment.keepsValues('code')).toBe(false);
  const ask = (source: string): number[] => [...evaluate(whole!.segment, parseFilter(source)).list()];
  for (const i of [0, 3, 9, 19_990, 20_001, 20_002, 23_009, 23_999])
    expect(ask(`code = 'c${i}'`)).toEqual(i % 500 === 1 ? [] : [i]);
  const where = (is: (i: number) => boolean): number[] => many.flatMap((_, i) => (is(i) ? [i] : []));
  expect(ask("code = 'twice'")).toEqual(where((i) => i % 1_000 === 9));
  expect(ask("code = 'shared'")).toEqual(where((i) => i % 500 === 1));
  expect(ask('code IS NULL')).toEqual(where((i) => i % 1_000 === 7));
  expect(ask("code <> 'shared'")).toEqual(where((i) => i % 500 !== 1 && i % 1_000 !== 7));
});

test('what very many records share is not read record by record', () => {
  const many = Array.from({ length: 60_000 }, (_, i): RecordJson => {
    const summary = i % 3 === 0 ? '' : i % 3 === 1 && i % 2 === 0 ? 'in preparation' : `a summary of its own: ${i}`;
    return { id: `r${i}`, summary, both: i % 9 === 0 ? ['', `note ${i}`] : `note ${i}` };
  });
  const { segment: whole } = generationOf(many, completeTuning({ search: [{ field: 'id' }] })).segments[0]!;
  expect([whole.keepsValues('summary'), whole.keepsValues('both')]).toEqual([false, false]);
  const ask = (source: string): number => evaluate(whole, parseFilter(source), new Work(1_000_000)).count();
  // Half of all summaries are missing in most lists: the empty text needs no look.
  expect(ask("summary = ''")).toBe(20_000);
  expect(ask("summary <> ''")).toBe(40_000);
  expect(ask("summary IN ('', 'a summary of its own: 2')")).toBe(20_001);
  expect(ask("both = ''")).toBe(6_667);
  expect(ask("summary = 'a summary of its own: 5'")).toBe(1);
  // Another text that thousands share would have to be read in each of them.
  expect(() => ask("summary = 'in preparation'")).toThrow('own in “summary”');
});

test('texts by their hashes: all that hold a text, whatever else has its hash', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ unit: 'grapheme', maxLength: 3 }), { maxLength: 60 }), (texts) => {
      const builder = new TextHashesBuilder();
      texts.forEach((one, doc) => builder.add(doc, one));
      const hashes = builder.finish(texts.length);
      expect(hashes.docs).toBeNull();
      const short = (one: string): number =>
        one === '' ? 0 : (fnvOfText(one) >>> 16) ^ (fnvOfText(one) & 0xffff) || 1;
      expect([...hashes.hashes]).toEqual(texts.map(short));
      for (const wanted of [...texts.map((one) => [one]), texts.slice(0, 3), []])
        expect([...docsWithHash(hashes, wanted)]).toEqual(
          texts.flatMap((other, doc) => (wanted.some((one) => short(other) === short(one)) ? [doc] : [])),
        );
    }),
    runs(200),
  );
});
