import type { FacetAnswer, FieldProfile, SignalRule } from '@yucca/contract';
import fc from 'fast-check';
import { facetChanges } from '../src/features/tuning/comparison/facet-changes';
import { versionFrom, versionName, versionSign } from '../src/features/tuning/comparison/versions';
import { freeSortName } from '../src/features/tuning/levers/order';
import { curveOf } from '../src/features/tuning/levers/signal-curve';
import { monthsFrom, shareOf, spanOf } from '../src/features/tuning/placements/calendar-days';
import { formFrom, placementFrom } from '../src/features/tuning/placements/placement-text';
import { checkTuning } from '../src/server/tuning/tuning';

describe('a signal on its curve', () => {
  const field = (part: Partial<FieldProfile>): FieldProfile =>
    ({ numbers: null, dates: null, spread: null, ...part }) as FieldProfile;
  const rule = (part: Partial<SignalRule>): SignalRule => ({
    field: 'sales',
    order: 'desc',
    weight: 1,
    shape: 'linear',
    halfLifeDays: 10,
    ...part,
  });
  const sales = field({
    numbers: { min: 0, max: 100, mean: 20 },
    spread: { from: 0, width: 25, counts: [90, 0, 0, 10], unit: 'number' },
  });

  test('the line is what the engine makes of each value, the bars are the records', () => {
    const curve = curveOf(rule({}), sales)!;
    expect(curve.points[0]).toBe(0);
    expect(curve.points.at(-1)).toBe(1);
    expect(curve.points[24]).toBeCloseTo(0.5);
    expect(curve.bars).toEqual([1, 0, 0, Math.sqrt(1 / 9)]);
    expect([curve.from, curve.to, curve.half]).toEqual(['0', '100', '10% of records get half or more']);
    expect(curveOf(rule({ order: 'asc' }), sales)!.half).toBe('90% of records get half or more');
    expect(curveOf(rule({ shape: 'log' }), sales)!.points[12]).toBeGreaterThan(0.6);
  });

  test('dates halve with their half-life; without values there is no curve', () => {
    const added = field({
      dates: { from: '2026-01-01', to: '2026-01-21' },
      spread: { from: 20454, width: 10, counts: [1, 1], unit: 'day' },
    });
    const curve = curveOf(rule({ shape: 'recency' }), added)!;
    expect(curve.points[0]).toBeCloseTo(0.25);
    expect(curve.points[24]).toBeCloseTo(0.5);
    expect(curve.from).toBe('2026-01-01');
    expect(curveOf(rule({}), field({}))).toBeNull();
    expect(curveOf(rule({}), null)).toBeNull();
  });
});

describe('the calendar', () => {
  test('twelve months from a day on; January and the first say their year', () => {
    const months = monthsFrom('2026-11-25', 0, 12);
    expect(months.map(({ label }) => label).slice(0, 4)).toEqual(['Nov 2026', 'Dec', 'Jan 2027', 'Feb']);
    expect(monthsFrom('2026-01-31', -1, 2).map(({ start }) => start)).toEqual(['2025-12-01', '2026-01-01']);
  });

  test('spans lie inside, in order, and last days are included', () => {
    const months = monthsFrom('2026-01-01', 0, 12);
    expect(spanOf(months, { from: '2026-01-01', to: '2026-01-31' })).toEqual({ from: 0, to: 1 / 12 });
    expect(spanOf(months, { to: '2025-12-31' })).toBeNull();
    expect(spanOf(months, { from: '2027-01-01' })).toBeNull();
    expect(spanOf(months, {})).toEqual({ from: 0, to: 1 });
    expect(shareOf(months, '2027-01-01')).toBeNull();
    const day = fc.integer({ min: -400, max: 800 }).map((n) => new Date(Date.UTC(2026, 0, 1 + n)).toISOString().slice(0, 10)); // prettier-ignore
    fc.assert(
      fc.property(day, day, (a, b) => {
        const [from, to] = a < b ? [a, b] : [b, a];
        const span = spanOf(months, { from, to });
        expect(span === null).toBe(to < '2026-01-01' || from > '2026-12-31');
        if (span === null) return;
        expect(0 <= span.from && span.from < span.to && span.to <= 1).toBe(true);
      }),
    );
  });
});

describe('a placement in a form', () => {
  const name = fc.constantFrom('spring', 'for-fern');
  const text = fc.constantFrom('fern', 'snake plant', "d'été");
  const key = fc.constantFrom('P-1', 'e/4 ?', '12 34');
  const list = <T>(item: fc.Arbitrary<T>) => fc.uniqueArray(item, { minLength: 1, maxLength: 2 });
  const placement = fc
    .record(
      {
        query: fc.oneof(fc.constant(''), text),
        is: fc.constantFrom('starts' as const, 'contains' as const),
        select: fc.record({ colour: list(fc.constantFrom('red', 'a: b')) }),
        tags: list(text),
        from: fc.constant('2026-01-02'),
        to: fc.constant('2026-03-04'),
        pin: list(key).map((ids) => ids.map((id, i) => ({ id, at: i + 1 }))),
        hide: list(key),
        lift: list(fc.constantFrom('stock > 0', "colour = 'red'")),
        notice: text,
        redirect: fc.constant('/s/collect'),
        replaceQuery: text,
      },
      { requiredKeys: [] },
    )
    .chain((part) => name.map((called) => ({ called, ...part })))
    .map(({ called, query, is, select, tags, from, to, ...what }) => ({
      name: called,
      when: {
        ...(query === undefined ? {} : { query }),
        ...(query && is ? { is } : {}),
        ...(select && { select }),
        ...(tags && { tags }),
        ...(from && { from }),
        ...(to && { to }),
      },
      ...what,
    }));

  test('what is written there comes back the same, and the server takes it', () => {
    fc.assert(
      fc.property(placement, (one) => {
        expect(placementFrom(formFrom(one))).toEqual({ ok: true, placement: one });
        expect(() => checkTuning({ placements: [one] })).not.toThrow();
      }),
    );
  });

  test('what cannot be read is named and nothing is lost', () => {
    const good = formFrom({ name: 'x', when: { query: 'fern' } });
    const said = (change: Partial<typeof good>): string => {
      const reading = placementFrom({ ...good, ...change });
      return reading.ok ? 'fine' : reading.problem;
    };
    expect(said({})).toBe('fine');
    expect(said({ name: 'Spring offer' })).toContain('small letters');
    expect(said({ query: ' ' })).toBe('Say which query it is for.');
    expect(said({ from: '2026-02-02', to: '2026-02-01' })).toBe('It ends before it begins.');
    expect(said({ pin: 'P-1' })).toContain('“1 P-0042”, not “P-1”');
    expect(said({ pin: '0 P-1' })).toContain('from 1 to 1000');
    expect(said({ conditions: { select: 'red' } })).toContain('“colour: red”, not “red”');
  });
});

test('versions in the address, and names for sorts', () => {
  expect([versionFrom('live', 'draft'), versionFrom('12', 'live'), versionFrom('x', 'draft'), versionFrom('0', 'live')]).toEqual(['live', 12, 'draft', 'live']); // prettier-ignore
  expect([versionName(3), versionSign(3), versionSign('draft')]).toEqual(['version 3', '○', '◇']);
  const sorts = [{ name: 'price' }, { name: 'price-2' }];
  expect(freeSortName('Price', sorts)).toBe('price-3');
  expect(freeSortName('relevance', [])).toBe('relevance-2');
  expect(freeSortName('90_days', [])).toBe('days');
  expect(freeSortName('高', [])).toBe('sort');
});

test('facets of two answers: what changes most comes first, numbers by their ends', () => {
  const values = (counts: Record<string, number>): FacetAnswer => ({
    kind: 'values',
    label: 'Colour',
    values: Object.entries(counts).map(([value, count]) => ({ value, label: value, count, selected: false })),
    more: false,
    missing: 0,
  });
  const numbers = (min: number | null, max: number | null): FacetAnswer => ({ kind: 'numbers', label: 'Price', min, max, buckets: [], other: 0, missing: 0, notNumbers: 0, selected: null }); // prettier-ignore
  const [colour, price] = facetChanges(
    { colour: values({ red: 5, white: 3, blue: 1 }), price: numbers(2, 9) },
    { colour: values({ red: 5, white: 9, green: 4 }), price: numbers(null, null) },
  );
  expect(colour).toMatchObject({
    changed: 1,
    values: [
      { label: 'white', before: 3, after: 9 },
      { label: 'red', before: 5, after: 5 },
    ],
  });
  expect(price!.ends).toEqual({ before: '2 to 9', after: 'none' });
});
