/** @jest-environment jsdom */
/** How a page may show a facet: each control chooses what its plain form would choose. */
import type { FacetAnswer, NumbersFacet, SearchAnswer } from '@yucca/contract';
import { fireEvent, render, screen, within } from '@testing-library/react';
import fc from 'fast-check';
import { useState } from 'react';
import { isRange, type Choices } from '../src/index.ts';
import { withLabels } from '../src/facet-labels.ts';
import { FacetList, type FacetLook } from '../src/react/index.ts';
import { stepsOf } from '../src/react/facets/facet-steps.tsx';

const colours: FacetAnswer = {
  kind: 'values',
  label: 'Colour',
  values: ['red', 'white', 'ice blue'].map((value) => ({ value, label: value, count: 2, selected: false })),
  more: false,
  missing: 0,
};
const rating: NumbersFacet = {
  kind: 'numbers',
  label: 'Rating',
  ...{ min: 1, max: 5, missing: 0, other: 0, notNumbers: 0, selected: null },
  buckets: [
    { from: 1, to: 2, count: 3 },
    { from: 2, to: 3, count: 0 },
    { from: 3, to: 4, count: 4 },
    { from: 4, to: 5, count: 5 },
  ],
};

const seen = jest.fn<undefined, [Choices]>();
const chosen = (): Choices => seen.mock.lastCall![0];

function Page({ facet, look, first = {} }: { facet: FacetAnswer; look: Omit<FacetLook, 'name'>; first?: Choices }) {
  const [select, setSelect] = useState<Choices>(first);
  const range = select.one !== undefined && isRange(select.one) ? { selected: select.one } : {};
  const answer = { facets: { one: { ...facet, ...range } } } as unknown as SearchAnswer;
  return (
    <FacetList
      {...{ answer, select }}
      onSelect={(next) => {
        seen(next);
        setSelect(next);
      }}
      looks={[{ name: 'one', ...look }]}
    />
  );
}

test('a list of which one value can be chosen, or any', () => {
  render(<Page facet={colours} look={{ control: 'select' }} first={{ other: ['x'], one: ['red'] }} />);
  const list: HTMLSelectElement = screen.getByRole('combobox', { name: 'Colour' });
  expect(list.value).toBe('red');
  expect([...list.options].map(({ text }) => text)).toEqual(['Any', 'red (2)', 'white (2)', 'ice blue (2)']);
  fireEvent.change(list, { target: { value: 'ice blue' } });
  expect(chosen()).toEqual({ other: ['x'], one: ['ice blue'] });
  fireEvent.change(list, { target: { value: '' } });
  expect(chosen()).toEqual({ other: ['x'] });
});

test('swatches show the colour that was given, or that the value names', () => {
  render(<Page facet={colours} look={{ control: 'swatches', colours: { 'ice blue': '#d0eeff' }, shown: 2 }} />);
  const boxes = screen.getAllByRole('checkbox', { hidden: true });
  const swatches = boxes.map((box) => box.closest('label')!.querySelector<HTMLElement>('[data-part=swatch]'));
  expect(swatches.map((swatch) => swatch!.style.background)).toEqual(['red', 'white', 'rgb(208, 238, 255)']);
  // Two are in sight, the third behind "more".
  expect(screen.getByText('1 more value')).toBeTruthy();
  fireEvent.click(boxes[0]!);
  expect(chosen()).toEqual({ one: ['red'] });
});

test('steps are least numbers; one that is chosen stays though the results no longer reach it', () => {
  render(<Page facet={rating} look={{ control: 'steps' }} />);
  const group = screen.getByRole('radiogroup', { name: 'Rating' });
  const names = within(group)
    .getAllByRole('radio')
    .map((radio) => radio.closest('label')!.textContent);
  expect(names).toEqual(['Any', '4 and more5', '3 and more9', '2 and more9']);
  fireEvent.click(within(group).getByRole('radio', { name: /^4/ }));
  expect(chosen()).toEqual({ one: { min: 4 } });
  fireEvent.click(within(group).getByRole('radio', { name: 'Any' }));
  expect(chosen()).toEqual({});
});

test('a chosen step that no bucket begins with is offered too', () => {
  render(<Page facet={{ ...rating, selected: { min: 9 } }} look={{ control: 'steps' }} />);
  expect(screen.getByRole<HTMLInputElement>('radio', { name: '9 and more' }).checked).toBe(true);
});

test('steps count what lies above them, and each says something', () => {
  const buckets = fc
    .array(fc.nat(5), { maxLength: 12 })
    .map((counts) => counts.map((count, i) => ({ from: i, to: i + 1, count })));
  fc.assert(
    fc.property(buckets, (list) => {
      const all = list.reduce((sum, { count }) => sum + count, 0);
      for (const { from, records } of stepsOf({ buckets: list })) {
        expect(records).toBe(list.filter((bucket) => bucket.from >= from).reduce((sum, { count }) => sum + count, 0));
        expect(records).toBeGreaterThan(0);
        expect(records).toBeLessThan(all);
      }
    }),
  );
});

test('a folded facet opens by itself while something is chosen in it', () => {
  const { container, unmount } = render(<Page facet={colours} look={{ folded: true }} />);
  expect(container.querySelector('details')!.open).toBe(false);
  unmount();
  const again = render(<Page facet={colours} look={{ folded: true }} first={{ one: ['red'] }} />);
  expect(again.container.querySelector('details')!.open).toBe(true);
});

test('facets are called as the page calls them, and an answer that is right already stays the same one', () => {
  const answer = { facets: { one: colours } } as unknown as SearchAnswer;
  const named = (label: string) => [{ name: 'one', kind: 'values' as const, label }];
  expect(withLabels(answer, named('Colour'))).toBe(answer);
  expect(withLabels(answer, named('Shade'))!.facets.one!.label).toBe('Shade');
  expect(answer.facets.one!.label).toBe('Colour');
  expect(withLabels(null, named('Shade'))).toBeNull();
  expect(withLabels(answer, [{ name: 'toString', kind: 'values', label: 'x' }])).toBe(answer);
});
