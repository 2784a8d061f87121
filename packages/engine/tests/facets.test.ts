import {
  completeTuning,
  type DatesFacet,
  type NumbersFacet,
  type TreeFacet,
  type TuningDocument,
  type ValuesFacet,
} from '@yucca/contract';
import fc from 'fast-check';
import { evenEdges } from '../src/facets/numbers.ts';
import { search } from '../src/index.ts';
import { generationOf } from './arbitraries.ts';

const records = [
  { id: '1', colour: ['red', 'white'], price: 5, path: ['Out > Shrub > Small', 'Out > Tree'], on: '2026-05-01' },
  { id: '2', colour: ['red'], price: 12.5, path: 'Out > Shrub', on: '2026-05-31T23:30:00Z' },
  { id: '3', colour: [], price: 'dear', path: 'In', on: '2026-06-01' },
  { id: '4', colour: ['10 cm', '9 cm'], price: 100, path: 'In > Fern', on: 'soon' },
];
const ask = (facet: NonNullable<TuningDocument['facets']>[number], select: object = {}) => {
  const tuning = completeTuning({ search: [{ field: 'id' }], facets: [facet] });
  const { facets, total, results } = search(generationOf(records, tuning, [2]), tuning, {
    facets: ['*'],
    select: select as Record<string, string[]>,
  });
  return { facet: facets[facet.name]!, total, ids: results.map(({ id }) => id) };
};

test('values by count or by name, numbers in names in their order, a chosen one always listed', () => {
  const byCount = ask({ name: 'c', field: 'colour', size: 1 }).facet as ValuesFacet;
  expect(byCount).toMatchObject({ values: [{ value: 'red', count: 2 }], more: true, missing: 1 });
  const byName = ask({ name: 'c', field: 'colour', order: 'value' }).facet as ValuesFacet;
  expect(byName.values.map(({ value }) => value)).toEqual(['9 cm', '10 cm', 'red', 'white']);
  const chosen = ask({ name: 'c', field: 'colour', size: 1 }, { c: ['gone'] });
  expect(chosen.total).toBe(0);
  expect((chosen.facet as ValuesFacet).values).toContainEqual({
    value: 'gone',
    label: 'gone',
    count: 0,
    selected: true,
  });
});

test('all of some values: each once, whatever their type, and one that stands nowhere finds nothing', () => {
  const all = { name: 'c', field: 'colour', match: 'all' as const };
  expect(ask(all, { c: ['red', 'white'] }).ids).toEqual(['1']);
  expect(ask(all, { c: ['red', 'red'] }).ids).toEqual(['1', '2']);
  expect(ask(all, { c: ['red', 'gone'] }).ids).toEqual([]);
  expect(ask(all, { c: ['9 cm', '10 cm'] }).ids).toEqual(['4']);
  // No record holds two of a field of single values.
  expect(ask({ ...all, field: 'on' }, { c: ['2026-06-01', 'soon'] }).ids).toEqual([]);
  const odd = { search: [{ field: 'id' }], facets: [{ name: 'c', field: 'n', match: 'all' as const }] };
  const tuning = completeTuning(odd);
  const mixed = [
    { id: '1', n: [5, '5', 'x'] },
    { id: '2', n: ['5'] },
    { id: '3', n: [5, 'x', true] },
  ];
  const found = (...values: string[]) =>
    search(generationOf(mixed, tuning), tuning, { select: { c: values } }).results.map(({ id }) => id);
  // A number and a text that read alike are one choice.
  expect([found('5'), found('5', 'x'), found('x', 'true')]).toEqual([['1', '2', '3'], ['1', '3'], ['3']]);
});

test('what is chosen may be so long in all, and no longer', () => {
  const chosen = (length: number) => ({ c: Array.from({ length: 64 }, (_, i) => String(i).padEnd(length, 'x')) });
  expect(ask({ name: 'c', field: 'colour' }, chosen(1_024)).total).toBe(0);
  expect(() => ask({ name: 'c', field: 'colour' }, chosen(1_025))).toThrow(
    'The chosen values have 65600 characters together; 65536 are the most.',
  );
});

test('a range counts as if nothing were chosen in it, and chooses with both ends', () => {
  const { facet, ids } = ask(
    { name: 'p', field: 'price', kind: 'numbers', buckets: [0, 10, 20] },
    { p: { min: 5, max: 12.5 } },
  );
  expect(ids).toEqual(['1', '2']);
  expect(facet).toEqual({
    kind: 'numbers',
    label: 'P',
    min: 5,
    max: 100,
    buckets: [
      { from: 0, to: 10, count: 1 },
      { from: 10, to: 20, count: 1 },
    ],
    other: 1,
    missing: 1,
    notNumbers: 1,
    selected: { min: 5, max: 12.5 },
  } satisfies NumbersFacet);
  expect(ask({ name: 'p', field: 'price', kind: 'numbers' }, { p: ['100'] }).ids).toEqual(['4']);
});

test('a tree counts a record once a node, and a node chooses all below it', () => {
  const { facet } = ask({ name: 't', field: 'path', kind: 'tree' });
  const { nodes } = facet as TreeFacet;
  expect(nodes.map(({ path, count }) => [path, count])).toEqual([
    ['In', 2],
    ['Out', 2],
  ]);
  expect(nodes[1]!.children.map(({ value, path, count }) => [value, path, count])).toEqual([
    ['Shrub', 'Out > Shrub', 2],
    ['Tree', 'Out > Tree', 1],
  ]);
  expect(ask({ name: 't', field: 'path', kind: 'tree' }, { t: ['Out > Shrub', 'In > Fern'] }).ids).toEqual([
    '1',
    '2',
    '4',
  ]);
  const small = ask({ name: 't', field: 'path', kind: 'tree', size: 1 }, { t: ['Out > Tree'] }).facet as TreeFacet;
  expect(small.nodes.map(({ path }) => path)).toEqual(['In', 'Out']);
  expect(small.nodes[1]!.children.find(({ path }) => path === 'Out > Tree')).toMatchObject({ selected: true });
});

test('levels without a name and paths without an end make a tree all the same, chosen or found', () => {
  const tuning = completeTuning({ search: [{ field: 'id' }], facets: [{ name: 't', field: 't', kind: 'tree' }] });
  const endless = Array.from({ length: 20_000 }, (_, i) => `n${i}`).join(' > ');
  const texts = [' > B', 'A >  > B', ' > ', ' >  > ', '', 'A', endless];
  const generation = generationOf(
    texts.map((t, i) => ({ id: String(i), t })),
    tuning,
  );
  const look = (...chosen: string[]) => {
    const { facets, results } = search(generation, tuning, { facets: ['t'], select: { t: chosen } });
    return { tree: facets.t as TreeFacet, ids: results.map(({ id }) => id) };
  };
  const { nodes, missing } = look().tree;
  expect(missing).toBe(1);
  expect(nodes.map(({ path, count }) => [path, count])).toEqual([
    [' > ', 2],
    ['A', 2],
    [' > B', 1],
    ['n0', 1],
  ]);
  let [node, depth] = [nodes[3]!, 1];
  for (; node.children.length > 0; depth++) node = node.children[0]!;
  expect([depth, node.path]).toEqual([100, endless]);
  expect(look(' > B').ids).toEqual(['0']);
  expect(look('A').ids).toEqual(['1', '5']);
  expect(look(' > ').ids).toEqual(['2', '3']);
  expect(look('').ids).toEqual([]);
  // What stands nowhere is in sight with all above it.
  const chosen = look(' > x', 'A > new').tree.nodes;
  expect(chosen.find(({ path }) => path === ' > x')).toMatchObject({ count: 0, selected: true });
  expect(chosen.find(({ path }) => path === 'A')!.children.map(({ path }) => path)).toContain('A > new');
});

test('dates by month and day, chosen as periods or as a range, a month as an end taken whole', () => {
  const { facet } = ask({ name: 'd', field: 'on', kind: 'dates' });
  expect(facet as DatesFacet).toMatchObject({
    by: 'month',
    values: [
      { value: '2026-06', count: 1 },
      { value: '2026-05', count: 2 },
    ],
    missing: 1,
  });
  const day = { name: 'd', field: 'on', kind: 'dates' as const, by: 'day' as const };
  expect(ask(day, { d: ['2026-05-31'] }).ids).toEqual(['2']);
  expect(ask(day, { d: { min: '2026-05-02', max: '2026-05' } }).ids).toEqual(['2']);
  expect((ask(day, { d: { min: '2026-06' } }).facet as DatesFacet).selected).toEqual({ min: '2026-06' });
});

test('even edges are round, ascend, and hold every number between them', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -1e6, max: 1e6, noNaN: true }),
      fc.double({ min: 0, max: 1e6, noNaN: true }),
      (min, span) => {
        fc.pre(span === 0 || span > 1e-3);
        const edges = evenEdges(min, min + span);
        expect(edges[0]!).toBeLessThanOrEqual(min);
        expect(edges.at(-1)!).toBeGreaterThanOrEqual(min + span);
        expect(edges.length).toBeLessThanOrEqual(16);
        edges.forEach((edge, i) => i > 0 && expect(edge).toBeGreaterThan(edges[i - 1]!));
      },
    ),
  );
  // A lower end that is a hair below a round number.
  expect(evenEdges(999999.9999999999, 1000000.0009999999)[0]).toBeLessThan(999999.9999999999);
  expect(evenEdges(3, 118)).toEqual([0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100, 110, 120]);
  expect(evenEdges(Infinity, -Infinity)).toEqual([]);
});
