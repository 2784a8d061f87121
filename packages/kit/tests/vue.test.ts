/** @jest-environment jsdom */
import type { SearchRequest } from '@yucca/contract';
import { createApp, defineComponent, effectScope, h, nextTick, type App } from 'vue';
import { EMPTY_QUERY, staticSource, withPage, withText, type SearchClient, type SearchState } from '../src/index.ts';
import { useAddress, useAutocomplete, useSearch, type KeptAddress } from '../src/vue/index.ts';
import { answerWith } from './answers.ts';

/** A client that answers at once, and notes what it is asked and what is dropped. */
function quickClient() {
  const asked: SearchRequest[] = [];
  const signals: AbortSignal[] = [];
  const client: SearchClient = {
    search: (_, request, signal) => {
      asked.push(request);
      signals.push(signal!);
      return Promise.resolve(answerWith({ results: 2, total: 7, query: request.q ?? '' }));
    },
  };
  return { client, asked, signals };
}

const settled = async (): Promise<void> => {
  await new Promise((resolve) => setTimeout(resolve, 0));
  await nextTick();
};

let app: App | null = null;
afterEach(() => {
  app?.unmount();
  app = null;
  window.history.replaceState(null, '', '/');
});

function mount(client: SearchClient) {
  const made: { state?: SearchState; change?: KeptAddress['change'] } = {};
  const Shop = defineComponent(() => {
    const [search, state] = useSearch({ client, collection: 'plants' });
    made.state = state;
    made.change = useAddress(state, []);
    return () => h('p', `${search.value.query.q}: ${search.value.answer?.total ?? 'nothing yet'}`);
  });
  const root = document.createElement('div');
  app = createApp(Shop);
  app.mount(root);
  return { root, state: made.state!, change: made.change! };
}

test('a component shows each answer, and asks no more once it is gone', async () => {
  const { client, asked, signals } = quickClient();
  const { root, state } = mount(client);
  expect(root.textContent).toBe(': nothing yet');
  state.ask(withText(EMPTY_QUERY, 'rose'));
  await settled();
  expect(root.textContent).toBe('rose: 7');
  state.ask(withText(EMPTY_QUERY, 'rosemary'));
  app!.unmount();
  app = null;
  expect(signals.at(-1)!.aborted).toBe(true);
  expect(asked).toHaveLength(2);
});

test('typing replaces the entry of the history once it rests, a page is a new one, and Back leads back', async () => {
  const { client } = quickClient();
  const { state, change } = mount(client);
  const before = window.history.length;
  change(withText(EMPTY_QUERY, 'fern'), 'replace');
  expect(window.location.search).toBe('');
  change(withPage(withText(EMPTY_QUERY, 'fern'), 2), 'push');
  expect(window.location.search).toBe('?q=fern&page=2');
  expect(window.history.length).toBe(before + 1);
  const back = new Promise((resolve) => window.addEventListener('popstate', resolve, { once: true }));
  window.history.back();
  await back;
  await settled();
  expect(window.location.search).toBe('?q=fern');
  expect(state.snapshot().query).toMatchObject({ q: 'fern', page: 1 });
});

test('what was typed just now stands in the address before a click leads away', () => {
  const { client } = quickClient();
  const { root, change } = mount(client);
  document.body.append(root);
  change(withText(EMPTY_QUERY, 'fern'), 'replace');
  expect(window.location.search).toBe('');
  root.addEventListener('click', () => window.history.pushState(null, '', '/elsewhere'), { once: true });
  const seen: string[] = [];
  window.addEventListener('click', () => seen.push(window.location.search), { once: true, capture: true });
  root.click();
  expect([seen, window.location.pathname, window.location.search]).toEqual([['?q=fern'], '/elsewhere', '']);
});

test('an address that somebody else changes is left alone once the component is gone', async () => {
  const { client, asked } = quickClient();
  mount(client);
  app!.unmount();
  app = null;
  window.history.pushState(null, '', '/?q=aloe');
  window.dispatchEvent(new PopStateEvent('popstate'));
  await settled();
  expect(asked).toEqual([]);
});

test('an autocomplete in a scope: its offers as a ref, closed with the scope', async () => {
  const scope = effectScope();
  const [offers, state] = scope.run(() =>
    useAutocomplete({ sources: [staticSource('kinds', 'Kinds', [{ id: 'fern', kind: 'text', text: 'Fern' }])] }),
  )!;
  state.type('f');
  await settled();
  expect(offers.value.open).toBe(true);
  scope.stop();
  expect(state.snapshot().open).toBe(false);
});
