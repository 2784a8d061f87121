import { completeTuning, type RecordJson, type TreeFacet, type TreeNode } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { generationOf, runs } from './arbitraries.ts';

const level = fc.constantFrom('A', 'B', 'C', 'D', 'E', '', 'a longer name');
const path = fc.array(level, { maxLength: 4 }).map((levels) => levels.join('/'));
const records = fc
  .array(fc.oneof(path, fc.array(path, { maxLength: 3 }), fc.constant(undefined)), { minLength: 1, maxLength: 60 })
  .map((list) =>
    list.map((t, i): RecordJson => ({ id: `r${i}`, name: i % 3 ? 'rose' : 'fern', ...(t === undefined ? {} : { t }) })),
  );
const tuningOf = (size: number, order: 'count' | 'value') =>
  completeTuning({
    search: [{ field: 'name' }],
    facets: [{ name: 't', field: 't', kind: 'tree', separator: '/', size, order }],
  });

/** The first of each level, and what is in sight for a choice; whether anything is left out. */
function shortened(nodes: readonly TreeNode[], size: number, inSight: ReadonlySet<string>): [TreeNode[], boolean] {
  let more = false;
  const kept = nodes.filter(({ path: one }, rank) => rank < size || inSight.has(one));
  more ||= kept.length < nodes.length;
  const whole = kept.map((node) => {
    const [children, hasMore] = shortened(node.children, size, inSight);
    more ||= hasMore;
    return { ...node, children };
  });
  return [whole, more];
}

test('a short tree is the beginning of the long one at each level, whatever the segments, with what is chosen', () => {
  fc.assert(
    fc.property(
      records,
      fc.array(fc.integer({ min: 1, max: 50 }), { maxLength: 2 }),
      fc.integer({ min: 1, max: 4 }),
      fc.constantFrom('', 'rose', 'fern'),
      fc.constantFrom<string[]>([], ['B'], ['A/C', 'D'], ['E/new/one']),
      fc.constantFrom('count' as const, 'value' as const),
      (list, cuts, size, q, chosen, order) => {
        const generation = generationOf(list, tuningOf(size, order), cuts);
        const treeOf = (most: number): TreeFacet => {
          const select: Record<string, string[]> = chosen.length > 0 ? { t: chosen } : {};
          return search(generation, tuningOf(most, order), { q, facets: ['t'], select }).facets.t as TreeFacet;
        };
        const [long, short] = [treeOf(1_000), treeOf(size)];
        const above = chosen.flatMap((one) => one.split('/').map((_, i, levels) => levels.slice(0, i + 1).join('/')));
        const [nodes, more] = shortened(long.nodes, size, new Set(above));
        expect(long.more).toBe(false);
        expect(short).toEqual({ ...long, nodes, more });
      },
    ),
    runs(300),
  );
});

test('a node chooses all below it, and a number as it is written', () => {
  const paths = [1, '1', '1/2', '1/2/3', '10', 'a', ['a/b', 1], true, 'true/x', ''];
  const tuning = tuningOf(100, 'count');
  const generation = generationOf(paths.map((t, i) => ({ id: `r${i}`, t })), tuning, [4]); // prettier-ignore
  const ids = (...t: string[]): string[] =>
    search(generation, tuning, { select: { t } }).results.map(({ id }) => id.slice(1));
  expect(ids('1')).toEqual(['0', '1', '2', '3', '6']);
  expect(ids('1/2')).toEqual(['2', '3']);
  expect(ids('a', 'true')).toEqual(['5', '6', '7', '8']);
  expect(ids('1/2/3', '1', '10')).toEqual(['0', '1', '2', '3', '4', '6']);
  expect(ids('a/new')).toEqual([]);
});

test('of very many nodes the first of each level are listed', () => {
  const wide = Array.from({ length: 30_000 }, (_, i): RecordJson => ({ id: `r${i}`, t: `top ${i % 40}/node ${i}` }));
  const tuning = tuningOf(10, 'count');
  const generation = generationOf(wide, tuning);
  const ask = () => search(generation, tuning, { facets: ['t'], size: 1 }).facets.t as TreeFacet;
  const { nodes, more } = ask();
  expect([nodes.length, nodes[0]!.children.length, more]).toEqual([10, 10, true]);
  expect(nodes[0]).toMatchObject({ path: 'top 0', count: 750 });
});
