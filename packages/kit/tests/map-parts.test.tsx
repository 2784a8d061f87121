/** @jest-environment jsdom */
import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { EMPTY_QUERY, type Near, type Query } from '../src/index.ts';
import { NearChoice, ResultMap } from '../src/react/index.ts';

const PLACES = [
  { name: 'Penden', lat: 47, lng: -18 },
  { name: 'Wexcombe', lat: 47.5, lng: -18.2 },
];

describe('where to measure from', () => {
  let asked: Query[] = [];
  beforeEach(() => {
    asked = [];
  });

  function Page({ near = null }: { near?: Near | null }) {
    const [query, setQuery] = useState<Query>({ ...EMPTY_QUERY, near, page: 3 });
    const ask = (next: Query): void => {
      asked.push(next);
      setQuery(next);
    };
    return <NearChoice query={query} places={PLACES} onQuery={ask} />;
  }
  const near = (): Near | null => asked.at(-1)!.near;

  test('a place, how far away, another place at the same distance, and anywhere again', async () => {
    render(<Page />);
    expect(screen.queryByRole('combobox', { name: 'within' })).toBeNull();
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Near' }), 'Penden');
    expect(asked).toEqual([{ ...EMPTY_QUERY, near: { lat: 47, lng: -18 } }]);
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'within' }), '25 km');
    expect(near()).toEqual({ lat: 47, lng: -18, withinM: 25_000 });
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Near' }), 'Wexcombe');
    expect(near()).toEqual({ lat: 47.5, lng: -18.2, withinM: 25_000 });
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'within' }), 'any distance');
    expect(near()).toEqual({ lat: 47.5, lng: -18.2 });
    await userEvent.selectOptions(screen.getByRole('combobox', { name: 'Near' }), 'anywhere');
    expect(near()).toBeNull();
  });

  test('a place and a distance of the address that no list has are shown as they are', () => {
    render(<Page near={{ lat: 46.123, lng: -17.9, withinM: 7_500 }} />);
    const shown = (name: string): string =>
      screen.getByRole<HTMLSelectElement>('combobox', { name }).selectedOptions[0]!.text;
    expect([shown('Near'), shown('within')]).toEqual(['46.123, -17.9', '7.5 km']);
  });

  const device = (answer: (found: PositionCallback, failed: PositionErrorCallback) => void): void =>
    void Object.defineProperty(navigator, 'geolocation', {
      configurable: true,
      value: { getCurrentPosition: answer },
    });

  test('the device’s own place is asked for no closer than a hundred metres', async () => {
    device((found) => found({ coords: { latitude: 47.123456, longitude: -18.98765 } } as GeolocationPosition));
    render(<Page near={{ lat: 47, lng: -18, withinM: 10_000 }} />);
    await userEvent.click(screen.getByRole('button', { name: 'Where I am' }));
    expect(near()).toEqual({ lat: 47.123, lng: -18.988, withinM: 10_000 });
  });

  test('a device that does not say where it is leaves the choice of a place', async () => {
    device((_, failed) => failed({ code: 1 } as GeolocationPositionError));
    render(<Page />);
    await userEvent.click(screen.getByRole('button', { name: 'Where I am' }));
    expect(asked).toEqual([]);
    expect(screen.getByRole('status').textContent).toContain('Choose a place instead.');
    device((found) => found({ coords: { latitude: 47, longitude: -18 } } as GeolocationPosition));
    await userEvent.click(screen.getByRole('button', { name: 'Where I am' }));
    expect(screen.getByRole('status').textContent).toBe('');
  });
});

describe('the map', () => {
  /** A garden so many kilometres north of Penden. */
  const garden = (n: number, km: number | null) => ({
    id: `C-${n}`,
    record: { name: `Garden ${n}`, ...(km === null ? {} : { at: { lat: 47 + km / 111.195, lng: -18 } }) },
    marks: {},
    snippets: {},
  });
  const map = (pointed: string | null, near: Near | null = PLACES[0]!) => {
    const onPoint = jest.fn<void, [string | null]>();
    const results = [garden(1, 0), garden(2, 40), garden(3, null), garden(4, 20)];
    const nameOf = ({ record }: { record: object }): string => (record as { name: string }).name;
    const { container } = render(<ResultMap {...{ results, near, pointed, onPoint, nameOf }} geo="at" />);
    return { container, onPoint };
  };
  const marks = (container: Element) =>
    [...container.querySelectorAll('[data-part=map-mark]')].map((mark) => ({
      number: mark.textContent,
      y: Number(mark.querySelector('circle')!.getAttribute('cy')),
    }));

  test('marks carry the numbers of the list; what has no place has no mark; north is up and the scale holds', () => {
    const { container } = map(null);
    expect(screen.getByRole('img').getAttribute('aria-label')).toMatch(/^Map of the 3 results of this page, with a scale of \d+ km$/); // prettier-ignore
    const found = marks(container);
    expect(found.map(({ number }) => number).sort()).toEqual(['1', '2', '4']);
    const y = (number: string): number => found.find((mark) => mark.number === number)!.y;
    expect(y('2')).toBeLessThan(y('4'));
    expect(y('4') - y('2')).toBeCloseTo(y('1') - y('4'), 3);
    const scale = container.querySelector('[data-part=map-scale]')!;
    const units = Number(/h([\d.]+)v/.exec(scale.querySelector('path')!.getAttribute('d')!)![1]);
    const km = Number(/^(\d+) km$/.exec(scale.textContent!)![1]);
    expect((y('1') - y('2')) / units).toBeCloseTo(40 / km, 3);
  });

  test('circles of distance stand around the visitor’s place, and without one there are none', () => {
    const { container } = map(null);
    const here = marks(container).find(({ number }) => number === '1')!;
    const away = (number: string): number => here.y - marks(container).find((mark) => mark.number === number)!.y;
    const rings = [...container.querySelectorAll('[data-part=map-rings] g')].map((ring) => {
      const circle = ring.querySelector('circle')!;
      expect(Number(circle.getAttribute('cy'))).toBeCloseTo(here.y, 6);
      return { km: Number(/^([\d.]+) km$/.exec(ring.textContent!)![1]), radius: Number(circle.getAttribute('r')) };
    });
    expect(rings).toHaveLength(4);
    // A garden 20 km away, and one 40 km away, lie where the rings say.
    for (const { km, radius } of rings) {
      expect(radius).toBeCloseTo((away('4') * km) / 20, 1);
      expect(radius).toBeCloseTo((away('2') * km) / 40, 1);
    }
    expect(map(null, null).container.querySelector('[data-part=map-rings]')).toBeNull();
  });

  test('the result that is pointed at lies on top and is called by its name; pointing at a mark points at the list', () => {
    const { container, onPoint } = map('C-1');
    expect(marks(container).at(-1)!.number).toBe('1');
    expect(container.querySelector('[data-part=map-name]')!.textContent).toBe('Garden 1');
    const [first] = container.querySelectorAll('[data-part=map-mark]');
    fireEvent.pointerEnter(first!);
    fireEvent.pointerLeave(first!);
    expect(onPoint.mock.calls).toEqual([['C-4'], [null]]);
  });

  test('results without a place have no map', () => {
    const { container } = render(
      <ResultMap
        results={[garden(1, null)]}
        geo="at"
        near={null}
        pointed={null}
        onPoint={() => {}}
        nameOf={() => ''}
      />,
    );
    expect(container.innerHTML).toBe('');
  });
});
