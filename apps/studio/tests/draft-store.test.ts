import type { TuningDocument } from '@yucca/contract';
import fc from 'fast-check';
import { mergeDrafts } from '../src/features/draft/merge-drafts';
import { isFree } from '../src/features/tuning/free-changes';
import { DraftChanged, DraftStore, type DraftCost, type DraftServer } from '../src/features/draft/draft-store';

/** A server that answers when the test says so. */
function heldServer(cost: Partial<DraftCost> = {}) {
  const saved: TuningDocument[] = [];
  // `elsewhere`: what another window has saved meanwhile.
  const state = {
    fail: null as string | null,
    elsewhere: null as TuningDocument | null,
    cost: { rebuild: false, aboutS: 0, ...cost },
    asked: 0,
  };
  const server: DraftServer<TuningDocument> = {
    cost: () => {
      state.asked++;
      return Promise.resolve(state.cost);
    },
    save: (document) => {
      if (state.fail !== null) return Promise.reject(new Error(state.fail));
      if (state.elsewhere !== null) return Promise.reject(new DraftChanged());
      saved.push(document);
      return Promise.resolve();
    },
    read: () => {
      const theirs = state.elsewhere ?? saved.at(-1) ?? {};
      state.elsewhere = null;
      return Promise.resolve(theirs);
    },
    discard: () => Promise.resolve({}),
    publish: () => Promise.resolve({ version: 7 }),
  };
  return { server, saved, state };
}

const settle = async (): Promise<void> => {
  for (let i = 0; i < 20; i++) await Promise.resolve();
};
const share = (signalShare: number) => (document: TuningDocument) => ({ ...document, signalShare });
const start = { live: {}, draft: {}, exists: false };

test('a change shows at once and is saved behind it; of many in a row the last one is', async () => {
  const { server, saved } = heldServer();
  const store = new DraftStore(server, start);
  for (let i = 1; i <= 9; i++) store.change(share(i / 10));
  expect(store.snapshot()).toMatchObject({ document: { signalShare: 0.9 }, status: 'saving', exists: false });
  await settle();
  expect(store.snapshot()).toMatchObject({ status: 'saved', exists: true, saved: { signalShare: 0.9 } });
  expect(saved.at(-1)).toEqual({ signalShare: 0.9 });
  expect(saved.length).toBeLessThan(3);
});

test('undo and redo walk through what was done, gestures as one step', async () => {
  const { server, saved } = heldServer();
  const store = new DraftStore(server, start);
  store.change(share(0.1));
  store.change(share(0.2), { gesture: 'typing' });
  store.change(share(0.3), { gesture: 'typing' });
  store.change(share(0.3));
  store.undo();
  expect(store.snapshot().document).toEqual({ signalShare: 0.1 });
  store.undo();
  store.undo();
  expect(store.snapshot()).toMatchObject({ document: {}, canUndo: false, canRedo: true });
  store.redo();
  store.redo();
  expect(store.snapshot()).toMatchObject({ document: { signalShare: 0.3 }, canRedo: false });
  await settle();
  expect(saved.at(-1)).toEqual({ signalShare: 0.3 });
});

test('a long rebuild waits for a word, a short one does not', async () => {
  const facet = (document: TuningDocument) => ({ ...document, facets: [{ name: 'colour', field: 'colour' }] });
  const long = heldServer({ rebuild: true, aboutS: 40 });
  const store = new DraftStore(long.server, start);
  store.change(facet);
  await settle();
  expect([store.snapshot().status, long.saved]).toEqual(['asking', []]);
  await store.confirm();
  expect([store.snapshot().status, long.saved.length]).toEqual(['saved', 1]);
  const short = heldServer({ rebuild: true, aboutS: 0.4 });
  const quick = new DraftStore(short.server, start);
  quick.change(facet);
  await settle();
  expect([quick.snapshot().status, short.saved.length]).toEqual(['saved', 1]);
});

/** What an index is made of, and one of each lever over it. */
const indexed: TuningDocument = {
  search: [{ field: 'name', weight: 4 }, { field: 'care' }],
  facets: [{ name: 'colour', field: 'colour' }],
  signals: [{ field: 'rating' }],
  sorts: [{ name: 'price', by: [{ field: 'price' }] }],
};

test.each<[string, TuningDocument, boolean]>([
  ['a weight', { search: [{ field: 'name', weight: 9 }, { field: 'care' }] }, false],
  ['fewer fields', { search: [{ field: 'name' }] }, false],
  ['typos', { typos: { oneFrom: 5, exactFields: ['name'] } }, false],
  ['words', { words: { require: 'any' }, stopWords: ['of'] }, false],
  ['a synonym', { synonyms: [{ kind: 'same', words: ['shrub', 'bush'] }] }, false],
  ['the shape of a signal', { signals: [{ field: 'rating', shape: 'log', weight: 3 }], signalShare: 0.5 }, false],
  ['a placement', { placements: [{ name: 'spring', when: { query: 'tulip' }, pin: [{ id: 'P1', at: 1 }] }] }, false],
  ['a sort by a field that has a column', { sorts: [{ name: 'best', by: [{ field: 'rating' }] }] }, false],
  ['stems off', { stems: false }, false],
  ['another language', { language: 'de' }, true],
  ['another field', { search: [...indexed.search!, { field: 'origin' }] }, true],
  ['all fields', { search: [] }, true],
  ['another facet', { facets: [...indexed.facets!, { name: 'size', field: 'size' }] }, true],
  ['another signal', { signals: [{ field: 'sales' }] }, true],
  ['groups by a field', { group: { field: 'genus' } }, true],
  ['tags that are not words', { html: ['care'] }, true],
  ['a place', { geo: 'place' }, true],
])('whether saving %s needs a question to the server', (_, change, needs) => {
  expect(isFree({ ...indexed, ...change }, indexed, indexed)).toBe(!needs);
});

test('a failure keeps what was typed and can be tried again', async () => {
  const { server, saved, state } = heldServer();
  const store = new DraftStore(server, start);
  state.fail = 'The server is away.';
  store.change(share(0.5));
  await settle();
  expect(store.snapshot()).toMatchObject({
    status: 'failed',
    problem: 'The server is away.',
    document: { signalShare: 0.5 },
  });
  state.fail = null;
  await store.retry();
  expect([store.snapshot().status, saved]).toEqual(['saved', [{ signalShare: 0.5 }]]);
});

test('a draft thrown away comes back by undo; a published one is live', async () => {
  const { server, saved } = heldServer();
  const store = new DraftStore(server, { live: {}, draft: { signalShare: 0.4 }, exists: true });
  await store.discard();
  expect(store.snapshot()).toMatchObject({ document: {}, exists: false, canUndo: true });
  store.undo();
  await settle();
  expect(saved).toEqual([{ signalShare: 0.4 }]);
  expect(await store.publish(null)).toBe(7);
  expect(store.snapshot()).toMatchObject({ live: { signalShare: 0.4 }, exists: false });
});

describe('two windows on one draft', () => {
  const begin = () => {
    const held = heldServer();
    const store = new DraftStore(held.server, { ...start, draft: { signalShare: 0.1, stems: true } });
    return { ...held, store };
  };

  test('what each has changed by itself is put together', async () => {
    const { store, saved, state } = begin();
    state.elsewhere = { signalShare: 0.1, stems: false };
    store.change(share(0.5));
    await settle();
    expect(saved).toEqual([{ signalShare: 0.5, stems: false }]);
    expect(store.snapshot()).toMatchObject({ status: 'saved', document: { signalShare: 0.5, stems: false } });
  });

  test('what both have changed waits for a word; nothing is saved meanwhile, and nothing lost', async () => {
    const { store, saved, state } = begin();
    state.elsewhere = { signalShare: 0.9, stems: false };
    store.change(share(0.5));
    await settle();
    expect(store.snapshot()).toMatchObject({ status: 'clash', clashes: ['signalShare'], document: { signalShare: 0.5, stems: false } }); // prettier-ignore
    expect(saved).toEqual([]);
    await store.settle('theirs');
    expect(saved).toEqual([{ signalShare: 0.9, stems: false }]);
    store.undo();
    expect(store.snapshot().document).toEqual({ signalShare: 0.5, stems: false });
  });

  test('one may keep their own', async () => {
    const { store, saved, state } = begin();
    state.elsewhere = { signalShare: 0.9 };
    store.change(share(0.5));
    await settle();
    await store.settle('mine');
    // The other window took `stems` back, and that stays.
    expect(saved).toEqual([{ signalShare: 0.5 }]);
    expect(store.snapshot()).toMatchObject({ status: 'saved', clashes: [] });
  });

  test('coming back to a window shows what the other one has saved; undo goes back', async () => {
    const { store, state } = begin();
    state.elsewhere = { signalShare: 0.7 };
    await store.catchUp();
    expect(store.snapshot()).toMatchObject({ document: { signalShare: 0.7 }, saved: { signalShare: 0.7 }, saves: 1 });
    store.undo();
    expect(store.snapshot().document).toEqual({ signalShare: 0.1, stems: true });
  });

  test('drafts put together: every property is as the only one who changed it has it', () => {
    const document = fc.record(
      { signalShare: fc.constantFrom(0.1, 0.2, 0.3), stems: fc.boolean(), language: fc.constantFrom('en', 'de') },
      { requiredKeys: [] },
    ) as fc.Arbitrary<TuningDocument>;
    fc.assert(
      fc.property(document, document, document, (base, mine, theirs) => {
        const { merged, clashes } = mergeDrafts(base, mine, theirs);
        for (const name of ['signalShare', 'stems', 'language'] as const) {
          const [b, m, t] = [base[name], mine[name], theirs[name]];
          expect(merged[name]).toBe(m === b ? t : m);
          expect(clashes.includes(name)).toBe(m !== b && t !== b && m !== t);
        }
      }),
    );
  });
});
