/** @jest-environment jsdom */
import type { FacetAnswer, FacetValue, SearchAnswer } from '@yucca/contract';
import { fireEvent, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { EMPTY_QUERY, withChoices, type Query } from '../src/index.ts';
import { FacetList, type FindInFacet } from '../src/react/index.ts';

const value = (name: string, count = 1): FacetValue => ({ value: name, label: name, count, selected: false });
const values = (label: string, list: FacetValue[], more = false): FacetAnswer => ({ kind: 'values', label, values: list, more, missing: 0 }); // prettier-ignore

let asked: Query = EMPTY_QUERY;
beforeEach(() => {
  asked = EMPTY_QUERY;
});

function Page({
  facets,
  find,
  first = EMPTY_QUERY,
}: {
  facets: Record<string, FacetAnswer>;
  find?: FindInFacet;
  first?: Query;
}) {
  const [query, setQuery] = useState(first);
  const ask = (next: Query): void => {
    asked = next;
    setQuery(next);
  };
  const select = (to: Query['select']): void => ask(withChoices(query, to));
  const answer = { facets } as SearchAnswer;
  return <FacetList answer={answer} select={query.select} onSelect={select} {...(find && { find })} />;
}

test('values are ticked and come first while they are chosen', async () => {
  render(<Page facets={{ colour: values('Colour', [value('red', 9), value('white', 4)]) }} />);
  const group = screen.getByRole('group', { name: 'Colour' });
  await userEvent.click(within(group).getByRole('checkbox', { name: /white/ }));
  expect(asked.select).toEqual({ colour: ['white'] });
  expect(within(group).getAllByRole('checkbox').map((box) => (box as HTMLInputElement).value)).toEqual(['white', 'red']); // prettier-ignore
  await userEvent.click(within(group).getByRole('checkbox', { name: /white/ }));
  expect(asked.select).toEqual({});
});

test('a facet with nothing to choose is not shown, unless something is chosen in it', () => {
  const facets = { colour: values('Colour', []), maker: values('Maker', []) };
  render(<Page facets={facets} first={{ ...EMPTY_QUERY, select: { maker: ['x'] } }} />);
  expect(screen.queryByRole('group', { name: 'Colour' })).toBeNull();
  expect(screen.getByRole('group', { name: 'Maker' })).toBeTruthy();
});

test('a long list is searched on the server; nothing found is said', async () => {
  const asks: string[] = [];
  const find: FindInFacet = async (facet, q) => {
    asks.push(`${facet}:${q}`);
    const found = q.startsWith('b') ? [{ ...value('Bramley'), ranges: [[0, 1]] as [number, number][] }] : [];
    return { facet, q, values: found, total: found.length };
  };
  const towns = Array.from({ length: 12 }, (_, i) => value(`Town ${i}`));
  render(<Page facets={{ town: values('Town', towns, true) }} find={find} />);
  expect(screen.getByText('4 more values')).toBeTruthy();
  const field = screen.getByRole('searchbox', { name: 'Find in Town' });
  await userEvent.type(field, 'b');
  await waitFor(() => expect(screen.getAllByRole('checkbox')).toHaveLength(1));
  expect(screen.getByText('B').tagName).toBe('MARK');
  await userEvent.clear(field);
  expect(screen.getAllByRole('checkbox')).toHaveLength(12);
  await userEvent.type(field, 'zz');
  await waitFor(() => expect(screen.getByRole('status').textContent).toBe('No value is like “zz”.'));
  expect(asks[0]).toBe('town:b');
});

test('a yes-or-no field is a switch', async () => {
  render(<Page facets={{ safe: values('Safe for pets', [value('false', 5), value('true', 3)]) }} />);
  await userEvent.click(screen.getByRole('switch', { name: /Safe for pets/ }));
  expect(asked.select).toEqual({ safe: ['true'] });
});

test('a tree opens where something is chosen', async () => {
  const leaf = { value: 'Shrubs', path: 'Outdoor > Shrubs', count: 3, selected: false, children: [] };
  const tree: FacetAnswer = {
    kind: 'tree',
    label: 'Category',
    separator: ' > ',
    nodes: [{ value: 'Outdoor', path: 'Outdoor', count: 5, selected: false, children: [leaf] }],
    more: false,
    missing: 0,
  };
  const { container } = render(<Page facets={{ category: tree }} />);
  const branch = container.querySelector('details')!;
  expect(branch.open).toBe(false);
  fireEvent.click(within(branch).getByRole('checkbox', { hidden: true }));
  expect(asked.select).toEqual({ category: ['Outdoor > Shrubs'] });
  expect(branch.open).toBe(true);
});

const price = (selected: { min?: number; max?: number } | null = null): FacetAnswer => ({
  kind: 'numbers',
  label: 'Price',
  min: 4,
  max: 60,
  buckets: [
    { from: 4, to: 32, count: 9 },
    { from: 32, to: 60, count: 1 },
  ],
  other: 0,
  missing: 2,
  notNumbers: 0,
  selected,
});

test('a range is dragged with two thumbs and asks once, when a thumb is let go', () => {
  render(<Page facets={{ price: price() }} />);
  const from = screen.getByRole('slider', { name: 'Price, from' });
  fireEvent.change(from, { target: { value: '10' } });
  fireEvent.change(from, { target: { value: '12' } });
  expect(asked.select).toEqual({});
  fireEvent.pointerUp(from);
  expect(asked.select).toEqual({ price: { min: 12 } });
  expect(screen.getByText('2 without a number')).toBeTruthy();
});

test('the thumbs do not pass each other, and a range typed in is taken on Enter', async () => {
  render(<Page facets={{ price: price({ max: 20 }) }} />);
  fireEvent.change(screen.getByRole('slider', { name: 'Price, from' }), { target: { value: '50' } });
  fireEvent.pointerUp(screen.getByRole('slider', { name: 'Price, from' }));
  expect(asked.select).toEqual({ price: { min: 20, max: 20 } });
  const least = screen.getByRole('textbox', { name: 'Price, at least' });
  await userEvent.clear(least);
  await userEvent.type(least, '7{Enter}');
  expect(asked.select).toEqual({ price: { min: 7, max: 20 } });
});

test('the field that a range is typed into keeps the focus when its answer comes, and shows what is chosen elsewhere', async () => {
  const { rerender } = render(<Page facets={{ price: price() }} />);
  const least = (): HTMLInputElement => screen.getByRole('textbox', { name: 'Price, at least' });
  await userEvent.type(least(), '7{Enter}');
  const field = least();
  rerender(<Page facets={{ price: price({ min: 7 }) }} />);
  expect(document.activeElement).toBe(field);
  await userEvent.type(field, '5');
  expect(field.value).toBe('75');
  // Back, or a choice taken away above the results.
  rerender(<Page facets={{ price: price() }} />);
  expect([least() === field, field.value]).toEqual([true, '']);
});

test('dates are chosen by their year or by two days', () => {
  const added: FacetAnswer = { kind: 'dates', label: 'Added', by: 'year', values: [value('2026', 3)], more: false, missing: 0, selected: null }; // prettier-ignore
  render(<Page facets={{ added }} />);
  fireEvent.change(screen.getByLabelText('Added, from'), { target: { value: '2026-03-01' } });
  expect(asked.select).toEqual({ added: { min: '2026-03-01' } });
});
