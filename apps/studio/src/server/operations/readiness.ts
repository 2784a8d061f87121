import type { Readiness } from '@yucca/contract';
import type { Runtime } from '../runtime';

/** What the server says of itself, in full. */
export function readinessOf({ collections, indexManager, storage, integrity, threads }: Runtime): Readiness {
  const each = collections.ids().map(({ name, id }) => {
    const { state, progress } = indexManager.readiness(id);
    return {
      name,
      state,
      progress: Math.round(progress * 1000) / 1000,
      ...(state === 'ready' ? {} : { reason: REASONS[state] }),
    };
  });
  const ready =
    each.every(({ state }) => state === 'ready') && storage.state.state === 'ok' && integrity.state.state !== 'damaged';
  return {
    status: ready ? 'ready' : 'not-ready',
    collections: each,
    storage: storage.state,
    integrity: integrity.state,
    threads: threadsByName(threads()),
  };
}

const REASONS = {
  opening: 'Its index is being opened.',
  partial:
    'A part of its index is being built again. What is there answers; the rest is missing from the answers until then.',
} as const;

function threadsByName(threads: ReturnType<Runtime['threads']>): Readiness['threads'] {
  const byName = new Map<string, Readiness['threads'][number]>();
  for (const { name, alive, replaced } of threads) {
    const known = byName.get(name) ?? { name, alive: 0, replaced: 0 };
    byName.set(name, { name, alive: known.alive + (alive ? 1 : 0), replaced: known.replaced + replaced });
  }
  return [...byName.values()];
}

/** What anybody may be told: whether it is ready and how many collections are not, without their names. */
export function withoutNames({ status, collections, storage, integrity, threads }: Readiness): Readiness {
  const unready = collections.filter(({ state }) => state !== 'ready');
  return {
    status,
    collections: unready.map((one, i) => ({ ...one, name: `collection ${i + 1}` })),
    storage,
    integrity: { ...integrity, problems: [] },
    threads,
  };
}
