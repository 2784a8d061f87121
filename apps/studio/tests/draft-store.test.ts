import type { TuningDocument } from '@yucca/contract';
import { DraftStore, type DraftCost, type DraftServer } from '../src/features/tuning/draft-store';

/** A server that answers when the test says so. */
function heldServer(cost: Partial<DraftCost> = {}) {
  const saved: TuningDocument[] = [];
  const state = { fail: null as string | null, cost: { rebuild: false, records: 1, aboutS: 0, ...cost } };
  const server: DraftServer = {
    cost: () => Promise.resolve(state.cost),
    save: (document) => {
      if (state.fail !== null) return Promise.reject(new Error(state.fail));
      saved.push(document);
      return Promise.resolve(document);
    },
    discard: () => Promise.resolve(),
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
  const long = heldServer({ rebuild: true, aboutS: 40 });
  const store = new DraftStore(long.server, start);
  store.change(share(0.5));
  await settle();
  expect([store.snapshot().status, long.saved]).toEqual(['asking', []]);
  await store.confirm();
  expect([store.snapshot().status, long.saved.length]).toEqual(['saved', 1]);
  const short = heldServer({ rebuild: true, aboutS: 0.4 });
  const quick = new DraftStore(short.server, start);
  quick.change(share(0.5));
  await settle();
  expect([quick.snapshot().status, short.saved.length]).toEqual(['saved', 1]);
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
