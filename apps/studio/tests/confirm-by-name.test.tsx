/** @jest-environment jsdom */
import { configure, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ConfirmByName } from '../src/ui/confirm-by-name';

// What comes by itself comes late on a machine that does much else.
configure({ asyncUtilTimeout: 20_000 });

function ask(onConfirm: () => Promise<void>) {
  const onClose = jest.fn();
  render(
    <ConfirmByName name="plants" title="Delete plants" verb="Delete for good" onConfirm={onConfirm} onClose={onClose}>
      3,000 records go with it.
    </ConfirmByName>,
  );
  return onClose;
}
const button = (): HTMLButtonElement => screen.getByRole('button', { name: 'Delete for good' });
const field = (): HTMLElement => screen.getByRole('textbox', { name: /Type plants to go on/ });

test('nothing is destroyed before the name is typed, letter by letter as it is', async () => {
  const confirm = jest.fn(() => Promise.resolve());
  const close = ask(confirm);
  expect(screen.getByRole('dialog', { name: 'Delete plants' }).textContent).toContain('3,000 records go with it.');
  expect(button().disabled).toBe(true);
  await userEvent.type(field(), 'Plants{Enter}');
  expect([button().disabled, confirm.mock.calls.length]).toEqual([true, 0]);
  await userEvent.clear(field());
  await userEvent.type(field(), 'plants');
  await userEvent.click(button());
  expect([confirm.mock.calls.length, close.mock.calls.length]).toEqual([1, 1]);
});

test('what went wrong is said, and the question stays', async () => {
  const close = ask(() => Promise.reject(new Error('The collection is being loaded.')));
  await userEvent.type(field(), 'plants{Enter}');
  expect((await screen.findByRole('alert')).textContent).toBe('The collection is being loaded.');
  expect(close).not.toHaveBeenCalled();
});

test('it is kept by the button and by Escape', async () => {
  const confirm = jest.fn(() => Promise.resolve());
  const close = ask(confirm);
  await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
  await userEvent.keyboard('{Escape}');
  expect([close.mock.calls.length, confirm.mock.calls.length]).toEqual([2, 0]);
});
