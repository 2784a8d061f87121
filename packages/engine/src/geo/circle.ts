import { DocSet } from '../sets/doc-set.ts';
import { searchBox, type Box } from './kd-tree.ts';
import { boxAround, distancesFrom, halfDiagonalM, type Position } from './geo-point.ts';

/** The positions of a segment's documents; see Segment.geo. */
interface GeoPoints {
  lats: Float64Array;
  lngs: Float64Array;
  tree: Uint32Array;
}

/** Rounding may put a point on the wrong side by less than this; within it the distance itself decides. */
const MARGIN_M = 1;

/**
 * The documents within a distance of a position, edge included. What lies in parts of the map that are inside as a
 * whole is taken without a look, so the cost follows the edge of the circle more than what is in it.
 */
export function circle({ lats, lngs, tree }: GeoPoints, middle: Position, withinM: number): DocSet {
  const set = new DocSet(lats.length);
  const box = boxAround(middle, withinM);
  const distanceTo = distancesFrom(middle);
  const visit = (doc: number, sure: boolean): void => {
    if (sure || distanceTo(lats[doc]!, lngs[doc]!) <= withinM) set.add(doc);
  };
  // No point of a part is further than its middle is, and from there to a corner.
  const isSure = (part: Box): boolean => {
    const reach = halfDiagonalM(part) + MARGIN_M;
    return (
      reach <= withinM && distanceTo((part.south + part.north) / 2, (part.west + part.east) / 2) + reach <= withinM
    );
  };
  // A box over the date line is looked for on both sides of the map.
  for (const shift of [0, -360, 360]) {
    const [west, east] = [box.west + shift, box.east + shift];
    if (west <= 180 && east >= -180) searchBox(tree, lngs, lats, { ...box, west, east }, visit, isSure);
  }
  return set;
}

const FIRST_M = 100;
/** Half the way round the earth: no point is further. */
const FURTHEST_M = 20_100_000;

/**
 * The documents of a set that lie within some circle which holds at least `count` of them: the nearest ones are among
 * these. Null when no circle does, because too few have a position. The circle is doubled until it is large enough, so
 * what was looked at before is a third of what is looked at last.
 */
export function nearest(points: GeoPoints, middle: Position, among: DocSet, count: number): DocSet | null {
  for (let withinM = FIRST_M; ; withinM *= 2) {
    const found = circle(points, middle, withinM).and(among);
    if (found.count() >= count) return found;
    if (withinM > FURTHEST_M) return null;
  }
}
