/** @jest-environment jsdom */
import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { createMemory, pastQueriesSource, staticSource, type Offer } from '../src/index.ts';
import { SearchField, useAutocomplete } from '../src/react/index.ts';

const memory = createMemory('field', null);
const chosen: string[] = [];
const sent: string[] = [];

function Page() {
  const [text, setText] = useState('');
  const [snapshot, state] = useAutocomplete(() => ({
    sources: [
      pastQueriesSource(memory, { label: 'Asked before' }),
      staticSource('plants', 'Plants', [
        { id: '1', kind: 'row', text: 'Rose', count: 12 },
        { id: '2', kind: 'row', text: 'Rosemary', detail: 'a herb' },
        { id: '3', kind: 'row', text: 'Fern' },
      ] satisfies Offer[]),
    ],
  }));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        sent.push(text);
      }}
    >
      <SearchField
        state={state}
        snapshot={snapshot}
        label="Search plants"
        text={text}
        onText={setText}
        onChoose={(offer) => chosen.push(offer.text)}
        renderPreview={(offer) => <p>About {offer.text}</p>}
        input={{ name: 'q' }}
      />
      <button>Search</button>
    </form>
  );
}

const field = (): HTMLElement => screen.getByRole('combobox', { name: 'Search plants' });
const pointed = (): string | null => {
  const id = field().getAttribute('aria-activedescendant');
  return id === null ? null : (document.getElementById(id)?.textContent ?? 'nothing');
};

beforeEach(() => {
  chosen.length = sent.length = 0;
  memory.queries().forEach(memory.forgetQuery);
  render(<Page />);
});

test('typing opens the list, arrows point, Enter chooses, and the list closes', async () => {
  const person = userEvent.setup();
  await person.type(field(), 'ros');
  expect(field().getAttribute('aria-expanded')).toBe('true');
  expect(screen.getAllByRole('option')).toHaveLength(2);
  expect(screen.getByRole('group', { name: 'Plants' })).toBeTruthy();
  expect(screen.getByRole('status').textContent).toContain('2 offered: Plants 2');
  await person.keyboard('{ArrowDown}');
  expect(pointed()).toBe('Rose12');
  expect(screen.getByText('About Rose')).toBeTruthy();
  await person.keyboard('{End}');
  expect(pointed()).toContain('Rosemary');
  await person.keyboard('{Enter}');
  expect([chosen, sent]).toEqual([['Rosemary'], []]);
  expect(field().getAttribute('aria-expanded')).toBe('false');
});

test('Enter without a row sends the form; Escape closes, then empties; Tab leaves', async () => {
  const person = userEvent.setup();
  await person.type(field(), 'ros{Enter}');
  expect([chosen, sent]).toEqual([[], ['ros']]);
  await person.type(field(), 'e');
  await person.keyboard('{Escape}');
  expect(field().getAttribute('aria-expanded')).toBe('false');
  expect((field() as HTMLInputElement).value).toBe('rose');
  await person.keyboard('{Escape}');
  expect((field() as HTMLInputElement).value).toBe('');
  await person.keyboard('{ArrowDown}');
  expect(screen.getAllByRole('option')).toHaveLength(3);
  await person.tab();
  expect(screen.queryAllByRole('option')).toHaveLength(0);
  expect(document.activeElement).toBe(screen.getByRole('button'));
});

test('Home and End belong to the text until a row is pointed at', async () => {
  const person = userEvent.setup();
  await person.type(field(), 'ros');
  const home = (): boolean => fireEvent.keyDown(field(), { key: 'Home' });
  expect(home()).toBe(true);
  await person.keyboard('{ArrowDown}{ArrowDown}');
  expect(home()).toBe(false);
  expect(pointed()).toBe('Rose12');
});

test('a click chooses; a press on a row leaves the focus in the field; a press elsewhere closes', async () => {
  const person = userEvent.setup();
  await person.type(field(), 'f');
  await person.hover(screen.getByRole('option', { name: /Fern/ }));
  expect(pointed()).toBe('Fern');
  await person.click(screen.getByRole('option', { name: /Fern/ }));
  expect([chosen, document.activeElement === field()]).toEqual([['Fern'], true]);
  await person.type(field(), '{Backspace}r');
  expect(screen.getAllByRole('option').length).toBeGreaterThan(0);
  fireEvent.pointerDown(document.body);
  expect(screen.queryAllByRole('option')).toHaveLength(0);
});

test('past queries come before the first letter and are forgotten with Shift+Delete', async () => {
  act(() => ['agave', 'rose bush'].forEach((query) => memory.addQuery(query)));
  const person = userEvent.setup();
  await person.click(field());
  expect(screen.getByRole('group', { name: 'Asked before' })).toBeTruthy();
  await person.keyboard('{ArrowDown}{Shift>}{Delete}{/Shift}');
  expect(memory.queries()).toEqual(['agave']);
  expect(screen.queryByText('rose bush')).toBeNull();
});

test('while a letter is being composed nothing is asked and Enter belongs to the composing', () => {
  const input = field();
  fireEvent.compositionStart(input);
  fireEvent.change(input, { target: { value: 'r' } });
  expect((input as HTMLInputElement).value).toBe('r');
  expect(screen.queryAllByRole('option')).toHaveLength(0);
  fireEvent.keyDown(input, { key: 'ArrowDown', isComposing: true });
  expect(screen.queryAllByRole('option')).toHaveLength(0);
  fireEvent.change(input, { target: { value: 'ro' } });
  fireEvent.compositionEnd(input);
  expect(screen.getAllByRole('option')).toHaveLength(2);
});

test('a phone that composes each word gets its results with every letter, once', () => {
  const input = field() as HTMLInputElement;
  const compose = (data: string): void => {
    fireEvent.keyDown(input, { key: 'Unidentified', isComposing: true });
    fireEvent.compositionUpdate(input, { data });
    fireEvent.change(input, { target: { value: data } });
  };
  fireEvent.compositionStart(input);
  compose('r');
  compose('ro');
  expect(screen.getAllByRole('option')).toHaveLength(2);
  expect(input.value).toBe('ro');
  fireEvent.compositionEnd(input, { data: 'ro' });
  expect(input.value).toBe('ro');
});
