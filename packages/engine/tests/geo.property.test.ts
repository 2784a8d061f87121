import { completeTuning } from '@yucca/contract';
import fc from 'fast-check';
import { search } from '../src/index.ts';
import { buildTree, searchBox } from '../src/geo/kd-tree.ts';
import { boxAround, distanceM, readPosition, type Position } from '../src/geo/geo-point.ts';
import { generationOf } from './arbitraries.ts';

const lat = fc.oneof(fc.double({ min: -90, max: 90, noNaN: true }), fc.constantFrom(-90, 90, 0));
const lng = fc.oneof(fc.double({ min: -180, max: 180, noNaN: true }), fc.constantFrom(-180, 180, 179.99));
const position = fc.record({ lat, lng });

/** By the angle between two vectors: another way than the haversine formula. */
function farApart(a: Position, b: Position): number {
  const vector = ({ lat: y, lng: x }: Position): number[] => {
    const [la, lo] = [(y * Math.PI) / 180, (x * Math.PI) / 180];
    return [Math.cos(la) * Math.cos(lo), Math.cos(la) * Math.sin(lo), Math.sin(la)];
  };
  const [u, v] = [vector(a), vector(b)];
  const cross = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!];
  const dot = u[0]! * v[0]! + u[1]! * v[1]! + u[2]! * v[2]!;
  return 6_371_008.8 * Math.atan2(Math.hypot(...cross), dot);
}

test('distances are those of the sphere', () => {
  fc.assert(
    fc.property(position, position, (a, b) => {
      expect(Math.abs(distanceM(a, b) - farApart(a, b))).toBeLessThan(1);
    }),
  );
  expect(distanceM({ lat: 0, lng: 0 }, { lat: 0, lng: 1 })).toBeCloseTo(111_195, -1);
});

test('the tree finds all that lies in a box and nothing else', () => {
  fc.assert(
    fc.property(fc.array(position, { maxLength: 300 }), position, position, (places, a, b) => {
      const [lngs, lats] = [Float64Array.from(places, (p) => p.lng), Float64Array.from(places, (p) => p.lat)];
      const docs = Uint32Array.from(places, (_, i) => i);
      buildTree(docs, lngs, lats);
      const box = {
        south: Math.min(a.lat, b.lat),
        north: Math.max(a.lat, b.lat),
        west: Math.min(a.lng, b.lng),
        east: Math.max(a.lng, b.lng),
      };
      const found: number[] = [];
      searchBox(docs, lngs, lats, box, (doc) => found.push(doc));
      const inside = places.flatMap(({ lat: y, lng: x }, i) =>
        y >= box.south && y <= box.north && x >= box.west && x <= box.east ? [i] : [],
      );
      expect(found.sort((x, y) => x - y)).toEqual(inside);
    }),
  );
});

test('the box around a circle holds all of it, over the poles and the date line too', () => {
  fc.assert(
    fc.property(position, position, fc.integer({ min: 1, max: 20_000_000 }), (middle, other, withinM) => {
      fc.pre(distanceM(middle, other) <= withinM);
      const box = boxAround(middle, withinM);
      expect(other.lat).toBeGreaterThanOrEqual(box.south);
      expect(other.lat).toBeLessThanOrEqual(box.north);
      const held = [0, -360, 360].some((turn) => other.lng + turn >= box.west && other.lng + turn <= box.east);
      expect(held).toBe(true);
    }),
    { numRuns: 500 },
  );
});

test('near finds what is within, nearest first', () => {
  const tuning = completeTuning({ search: [{ field: 'name' }], geo: 'at' });
  fc.assert(
    fc.property(
      fc.array(position, { maxLength: 40 }),
      position,
      fc.integer({ min: 1, max: 9_000_000 }),
      (places, near, withinM) => {
        const records = places.map(({ lat: y, lng: x }, i) => ({
          id: String(i),
          name: 'x',
          at: [{ type: 'Point', coordinates: [x, y] }, { lat: y, lng: x }, [x, y]][i % 3],
        }));
        const request = { near: { ...near, withinM }, sort: 'distance', size: 200 };
        const { results } = search(
          generationOf([...records, { id: 'nowhere', name: 'x' }], tuning, [7]),
          tuning,
          request,
        );
        const expected = places
          .map((place, i) => ({ id: String(i), metres: distanceM(near, place) }))
          .filter(({ metres }) => metres <= withinM)
          .sort((a, b) => a.metres - b.metres || Number(a.id) - Number(b.id));
        expect(results.map(({ id }) => id)).toEqual(expected.map(({ id }) => id));
        results.forEach(({ distanceM: found }, i) =>
          expect(Math.abs(found! - expected[i]!.metres)).toBeLessThanOrEqual(0.051),
        );
      },
    ),
    { numRuns: 100 },
  );
});

test('positions in three forms are read, others are none', () => {
  const at = { lat: 51.5, lng: -0.12 };
  expect(readPosition({ type: 'Point', coordinates: [-0.12, 51.5] })).toEqual(at);
  expect(readPosition({ latitude: 51.5, lon: -0.12 })).toEqual(at);
  expect(readPosition([-0.12, 51.5])).toEqual(at);
  for (const none of [
    null,
    5,
    'x',
    [],
    [1],
    [1, 91],
    { lat: '5', lng: 1 },
    { type: 'Polygon', coordinates: [[[1, 2]]] },
  ]) {
    expect(readPosition(none)).toBeNull();
  }
});
