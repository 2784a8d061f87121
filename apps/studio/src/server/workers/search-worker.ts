/** A searcher: answers queries over segments it shares with the other threads. */
import { completeTuning, type SearchRequest, type Tuning, type TuningDocument } from '@yucca/contract';
import { search, Segment, Tombstones, type EngineAnswer, type Generation } from '@yucca/engine';
import { serve } from './rpc';

/** A collection's whole state, as the searchers are told it: one message, so that it changes in one step. */
export interface PublishedState {
  collectionId: number;
  generation: number;
  layers: { id: string; buffer: SharedArrayBuffer; dead: SharedArrayBuffer; deadCount: number }[];
  live: TuningDocument;
  draft: TuningDocument;
}

interface OpenCollection {
  generation: Generation;
  segments: Map<string, Segment>;
  live: Tuning;
  draft: Tuning;
}

const open = new Map<number, OpenCollection>();

/** A few queries nobody asked for, so that the first visitor does not wait for the compiler. */
function warmUp(collectionId: number): void {
  const collection = open.get(collectionId);
  if (!collection) return;
  for (const q of ['a', 'th', 'some wrods', 'anothre on', ''])
    search(collection.generation, collection.live, { q, facets: ['*'] });
}

const methods = {
  publish({ collectionId, generation, layers, live, draft }: PublishedState): void {
    const before = open.get(collectionId)?.segments;
    if (!before) setImmediate(() => warmUp(collectionId));
    // The buffer was checked when it was opened or built; a segment known already keeps its working memory.
    const segments = new Map(
      layers.map(({ id, buffer }) => [id, before?.get(id) ?? new Segment(buffer, { verify: false })]),
    );
    open.set(collectionId, {
      segments,
      live: completeTuning(live),
      draft: completeTuning(draft),
      generation: {
        number: generation,
        segments: layers.map(({ id, dead, deadCount }) => ({
          segment: segments.get(id)!,
          dead: new Tombstones(dead, deadCount),
        })),
      },
    });
  },

  forget(collectionId: number): void {
    open.delete(collectionId);
  },

  search(collectionId: number, request: SearchRequest): { answer: EngineAnswer; engineMs: number } {
    const collection = open.get(collectionId);
    if (!collection) throw new Error('the collection is not open here');
    const start = performance.now();
    const answer = search(collection.generation, collection[request.version ?? 'live'], request);
    return { answer, engineMs: performance.now() - start };
  },
};

export type SearcherMethods = typeof methods;

serve(methods);
