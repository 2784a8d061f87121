/** @jest-environment jsdom */
import { act, cleanup, configure, render, screen, waitFor } from '@testing-library/react';
import { createElement } from 'react';
import { PARTS, STARTS, VALUES } from '../examples/names';
import { WithShop } from '../examples/shop';

// What comes by itself comes late on a machine that does much else.
configure({ asyncUtilTimeout: 20_000 });

beforeAll(() => {
  window.scrollTo = (() => {}) as typeof window.scrollTo;
  // Every browser has it, the one of the tests does not.
  const json = (value: unknown) => ({ ok: true, status: 200, headers: new Headers(), json: async () => value, text: async () => JSON.stringify(value) }); // prettier-ignore
  globalThis.Headers ??= Map as unknown as typeof Headers;
  globalThis.Response ??= { json } as unknown as typeof Response;
});

async function shown(name: string): Promise<HTMLElement> {
  const { container } = render(
    <WithShop start={STARTS[name] ?? {}}>{(shop) => createElement(PARTS.get(name)!, shop)}</WithShop>,
  );
  await waitFor(() => expect(container.innerHTML).not.toBe(''));
  return container;
}

test.each([...PARTS.keys()].filter((name) => name !== 'VoiceButton'))('%s draws something', async (name) => {
  const complaints = jest.spyOn(console, 'error').mockImplementation(() => {});
  expect((await shown(name)).innerHTML).not.toBe('');
  expect(complaints.mock.calls).toEqual([]);
  complaints.mockRestore();
});

test('what is chosen in an example changes what it shows', async () => {
  await shown('FacetChecklist');
  const green = await screen.findByRole<HTMLInputElement>('checkbox', { name: /green/ });
  act(() => green.click());
  await waitFor(() => expect(screen.getByRole<HTMLInputElement>('checkbox', { name: /green/ }).checked).toBe(true));
  cleanup();
  const count = await shown('ResultCount');
  expect(count.textContent).toContain('lavender');
  cleanup();
  expect((await shown('NothingFound')).textContent).toContain('ferns in space');
});

test.each([...VALUES])('%s makes something', async (name, value) => {
  const made = await value();
  if (name === 'redirectOf') expect(made).toBeNull();
  else expect(JSON.stringify(made)?.length ?? 0).toBeGreaterThan(0);
});

test('they make what their pages say', async () => {
  const made = async (...names: string[]): Promise<unknown[]> => Promise.all(names.map((name) => VALUES.get(name)!()));
  expect(await made('printAddress', 'addressMap', 'prefixed')).toEqual([
    'q=rose&colour=pink&price=..30',
    '/plants/pink?q=rose&price=..30',
    '/?left.q=rose&left.colour=pink&left.price=..30',
  ]);
  expect(await made('isRange', 'isStart', 'sameQuery', 'pageNumbers')).toEqual([
    [true, false],
    [true, false],
    true,
    [1, 0, 5, 6, 7, 0, 40],
  ]);
  expect(await made('SearchState', 'pagesUpTo', 'withStanding', 'createClient', 'Autocomplete')).toEqual([
    'Lavender',
    ['P-07', 'P-08'],
    [16, 13],
    3,
    ['pink'],
  ]);
});
