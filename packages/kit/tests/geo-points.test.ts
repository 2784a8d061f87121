import fc from 'fast-check';
import { frameFor, pointOf, roundBelow, type Point } from '../src/geo-points.ts';

test('positions are read in the forms the API takes', () => {
  const here = { lat: 47.3, lng: -18.4 };
  expect(pointOf({ type: 'Point', coordinates: [-18.4, 47.3] })).toEqual(here);
  expect(pointOf([-18.4, 47.3])).toEqual(here);
  expect(pointOf(here)).toEqual(here);
  for (const nonsense of [null, undefined, 'here', {}, [], [1], { lat: 91, lng: 0 }, { coordinates: ['1', '2'] }])
    expect(pointOf(nonsense)).toBeNull();
});

const point: fc.Arbitrary<Point> = fc.record({
  lat: fc.double({ min: -60, max: 60, noNaN: true }),
  lng: fc.double({ min: -170, max: 170, noNaN: true }),
});

test('every point lies within the margins, north above south, west before east', () => {
  fc.assert(
    fc.property(fc.array(point, { minLength: 1, maxLength: 20 }), (points) => {
      const { place } = frameFor(points, 400, 300, 20);
      for (const one of points) {
        const { x, y } = place(one);
        expect(x).toBeGreaterThanOrEqual(19.99);
        expect(x).toBeLessThanOrEqual(380.01);
        expect(y).toBeGreaterThanOrEqual(19.99);
        expect(y).toBeLessThanOrEqual(280.01);
        for (const other of points) {
          if (one.lat > other.lat) expect(y).toBeLessThanOrEqual(place(other).y);
          if (one.lng < other.lng) expect(x).toBeLessThanOrEqual(place(other).x);
        }
      }
    }),
  );
});

test('the scale is the great-circle distance, as near as a county needs it', () => {
  // One degree of latitude, and one of longitude at 60° north, which is half as long.
  const { place, perKm } = frameFor([{ lat: 60, lng: 10 }, { lat: 60.2, lng: 10.4 }], 400, 400, 0); // prettier-ignore
  const a = place({ lat: 60.1, lng: 10 });
  const b = place({ lat: 60.1, lng: 11 });
  expect((b.x - a.x) / perKm).toBeCloseTo(55.4, 0);
  expect((place({ lat: 60, lng: 10 }).y - place({ lat: 61, lng: 10 }).y) / perKm).toBeCloseTo(111.2, 1);
});

test('round lengths for a scale bar', () => {
  expect([0.7, 1, 1.9, 2, 4.9, 5, 9.9, 23, 480].map(roundBelow)).toEqual([0.5, 1, 1, 2, 2, 5, 5, 20, 200]);
});
