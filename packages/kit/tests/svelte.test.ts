/** Stores by Svelte's contract: told at once, told of every change, and quiet when nobody watches. */
import type { SearchRequest } from '@yucca/contract';
import type { Readable } from 'svelte/store';
import { EMPTY_QUERY, withText, type SearchClient, type SearchSnapshot } from '../src/index.ts';
import { createAutocomplete, createSearch } from '../src/svelte/index.ts';
import { answerWith } from './answers.ts';

function heldClient() {
  const signals: AbortSignal[] = [];
  const client: SearchClient = {
    search: (_, request: SearchRequest, signal) => {
      signals.push(signal!);
      return Promise.resolve(answerWith({ results: 1, query: request.q ?? '' }));
    },
  };
  return { client, signals };
}

test('a store tells its value at once, and every change to all who watch', async () => {
  const { client } = heldClient();
  const [search, state] = createSearch({ client, collection: 'plants' });
  // What Svelte takes for a store.
  const store: Readable<SearchSnapshot> = search;
  const seen: string[][] = [[], []];
  const stops = seen.map((list) => store.subscribe(({ query, status }) => list.push(`${query.q} ${status}`)));
  expect(seen[0]).toEqual([' idle']);
  state.ask(withText(EMPTY_QUERY, 'fern'));
  await state.settled();
  expect(seen[0]).toEqual([' idle', 'fern idle', 'fern loading', 'fern idle']);
  expect(seen[1]).toEqual(seen[0]);
  stops[0]!();
  void state.refresh();
  await state.settled();
  expect([seen[0]!.length, seen[1]!.length]).toEqual([4, 6]);
});

test('what is asked for is dropped when the last one stops watching, and not before', () => {
  const { client, signals } = heldClient();
  const [search, state] = createSearch({ client, collection: 'plants' });
  const stops = [search.subscribe(() => {}), search.subscribe(() => {})];
  state.ask(withText(EMPTY_QUERY, 'fern'));
  stops[0]!();
  expect(signals[0]!.aborted).toBe(false);
  stops[1]!();
  expect(signals[0]!.aborted).toBe(true);
});

test('an autocomplete closes when nobody watches it', () => {
  const [offers, state] = createAutocomplete({ sources: [] });
  let open = false;
  const stop = offers.subscribe((snapshot) => (open = snapshot.open));
  state.open();
  expect(open).toBe(true);
  stop();
  expect(state.snapshot().open).toBe(false);
});
