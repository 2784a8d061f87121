/** @jest-environment jsdom */
import type { ProblemJson } from '@yucca/contract';
import { configure, fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { NewKeyForm } from '../src/features/keys/new-key-form';

// What comes by itself comes late on a machine that does much else.
configure({ asyncUtilTimeout: 20_000 });

let sent: unknown[] = [];
let refusal: Partial<ProblemJson> | null = null;
const made = jest.fn();

beforeEach(() => {
  sent = [];
  refusal = null;
  made.mockReset();
  window.fetch = (_, init) => {
    sent.push(JSON.parse(init!.body as string));
    const answer = refusal ?? { key: { id: 'k1' }, secret: 'yk_secret' };
    return Promise.resolve({
      ok: refusal === null,
      status: refusal?.status ?? 201,
      headers: new Headers(),
      json: () => Promise.resolve(answer),
      text: () => Promise.resolve(JSON.stringify(answer)),
    } as Response);
  };
  const collections = [
    { name: 'plants', title: 'Plants' },
    { name: 'guides', title: 'Growing guides' },
  ];
  render(<NewKeyForm collections={collections} onMade={made} />);
});

const button = (): HTMLButtonElement => screen.getByRole('button', { name: 'Make key' });
const field = (name: RegExp): HTMLElement => screen.getByLabelText(name);

test('a key needs something it is for and something it may; nothing more limits it', async () => {
  expect(button().disabled).toBe(true);
  await userEvent.type(field(/^Label/), '  Shop page ');
  expect(button().disabled).toBe(false);
  await userEvent.click(screen.getByRole('checkbox', { name: /^search, and nothing else/ }));
  expect(button().disabled).toBe(true);
  await userEvent.click(screen.getByRole('checkbox', { name: /^search and read/ }));
  await userEvent.click(button());
  expect(sent).toEqual([{ label: 'Shop page', rights: ['read'] }]);
  await waitFor(() => expect(made).toHaveBeenCalledWith({ key: { id: 'k1' }, secret: 'yk_secret' }));
});

test('every limit is sent as it was meant, and the form is empty for the next key', async () => {
  await userEvent.type(field(/^Label/), 'Shop page');
  await userEvent.click(screen.getByRole('checkbox', { name: 'Growing guides' }));
  await userEvent.type(field(/^Origins/), 'https://shop.example, https://*.shop.example');
  await userEvent.type(field(/Requests a minute/), '600');
  fireEvent.change(field(/^Expires/), { target: { value: '2030-01-31T12:00' } });
  await userEvent.type(field(/^Filter/), ' stock > 0 ');
  await userEvent.click(button());
  expect(sent).toEqual([
    {
      label: 'Shop page',
      rights: ['search'],
      collections: ['guides'],
      origins: ['https://shop.example', 'https://*.shop.example'],
      perMinute: 600,
      expiresAt: new Date('2030-01-31T12:00').toISOString(),
      filter: 'stock > 0',
    },
  ]);
  await waitFor(() => expect(button().disabled).toBe(true));
  expect((field(/^Origins/) as HTMLInputElement).value).toBe('');
  expect(screen.getByRole<HTMLInputElement>('checkbox', { name: 'Growing guides' }).checked).toBe(false);
});

test('what is refused is said at its field, and nothing that was typed is lost', async () => {
  refusal = {
    status: 422,
    title: 'The request is not valid',
    detail: 'x',
    errors: [
      { pointer: '/filter', detail: 'a value is expected at 1:9' },
      { pointer: '/origins/1', detail: 'must be an origin' },
    ],
  };
  await userEvent.type(field(/^Label/), 'Shop page');
  await userEvent.type(field(/^Filter/), 'stock >');
  await userEvent.click(button());
  const alerts = await screen.findAllByRole('alert');
  expect(alerts.map(({ textContent }) => textContent)).toEqual(['must be an origin', 'a value is expected at 1:9']);
  expect((field(/^Filter/) as HTMLInputElement).value).toBe('stock >');
  expect(made).not.toHaveBeenCalled();
  refusal = { status: 500, title: 'Something went wrong here', detail: '' };
  await userEvent.click(button());
  await waitFor(() =>
    expect(screen.getAllByRole('alert').map(({ textContent }) => textContent)).toEqual(['Something went wrong here']),
  );
});
