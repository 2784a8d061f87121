import type { SearchAnswer } from '@yucca/contract';
import { EMPTY_QUERY, shownChoices, withRange, withSort, withToggled } from '../src/index.ts';
import { textsOf } from '../src/texts/index.ts';

const answer = {
  facets: {
    maker: {
      kind: 'values',
      label: 'Maker',
      values: [{ value: 'm1', label: 'Tidewell', count: 2, selected: true }],
      more: false,
      missing: 0,
    },
    height: {
      kind: 'numbers',
      label: 'Height',
      min: 1,
      max: 9,
      buckets: [],
      other: 0,
      missing: 0,
      notNumbers: 0,
      selected: null,
    },
    place: {
      kind: 'tree',
      label: 'Place',
      separator: ' > ',
      nodes: [
        {
          value: 'In',
          path: 'In',
          count: 1,
          selected: false,
          children: [{ value: 'Fern', path: 'In > Fern', count: 1, selected: true, children: [] }],
        },
      ],
      more: false,
      missing: 0,
    },
  },
} as unknown as SearchAnswer;

test('choices show names where the address holds ids, and each can be taken back alone', () => {
  let query = withToggled(EMPTY_QUERY, 'maker', 'm1');
  query = withToggled(query, 'place', 'In > Fern');
  query = withRange(query, 'height', { min: 2 });
  query = withToggled(query, 'gone', 'x');
  expect(shownChoices(query, answer, textsOf()).map(({ label }) => label)).toEqual([
    'Tidewell',
    'Fern',
    'Height from 2',
    'x',
  ]);
  const without = shownChoices(query, answer, textsOf())[2]!.without;
  expect(without.select).toEqual({ maker: ['m1'], place: ['In > Fern'], gone: ['x'] });
});

test('ranges read as a person would say them', () => {
  const label = (range: { min?: number; max?: number }) =>
    shownChoices(withRange(EMPTY_QUERY, 'height', range), answer, textsOf()).map((choice) => choice.label);
  expect(label({ min: 2, max: 5 })).toEqual(['Height 2 to 5']);
  expect(label({ max: 5 })).toEqual(['Height up to 5']);
  expect(label({})).toEqual([]);
});

test('a range or a sort starts over at the first page', () => {
  const later = { ...EMPTY_QUERY, page: 4 };
  expect(withRange(later, 'height', { min: 1 }).page).toBe(1);
  expect(withSort(later, 'newest')).toEqual({ ...EMPTY_QUERY, sort: 'newest' });
  expect(withRange(withRange(later, 'height', { min: 1 }), 'height', null).select).toEqual({});
});
