/**
 * Positions as a tree in one flat list (Bentley 1975, k-d tree, without pointers): the middle of each run is its root,
 * parted by longitude and latitude in turn; runs of few positions are leaves. Searching a box looks at what is near it
 * and nothing else, so its cost follows the result.
 */
const LEAF = 32;

/** Puts document numbers in tree order. */
export function buildTree(docs: Uint32Array, lngs: Float64Array, lats: Float64Array): void {
  const stack: [from: number, to: number, axis: number][] = [[0, docs.length - 1, 0]];
  for (let run = stack.pop(); run !== undefined; run = stack.pop()) {
    const [from, to, axis] = run;
    if (to - from <= LEAF) continue;
    const middle = (from + to) >>> 1;
    select(docs, axis === 0 ? lngs : lats, middle, from, to);
    stack.push([from, middle - 1, 1 - axis], [middle + 1, to, 1 - axis]);
  }
}

/**
 * Puts the element that belongs at `k` there, smaller ones before it, larger ones after it (Hoare 1961, quickselect).
 */
function select(docs: Uint32Array, values: Float64Array, k: number, from: number, to: number): void {
  let [left, right] = [from, to];
  while (right > left) {
    const pivot = values[docs[(left + right) >>> 1]!]!;
    let [i, j] = [left, right];
    while (i <= j) {
      while (values[docs[i]!]! < pivot) i++;
      while (values[docs[j]!]! > pivot) j--;
      if (i > j) break;
      const held = docs[i]!;
      docs[i++] = docs[j]!;
      docs[j--] = held;
    }
    if (k <= j) right = j;
    else if (k >= i) left = i;
    else return;
  }
}

/** A part of the map in degrees, edges included. */
export interface Box {
  south: number;
  north: number;
  west: number;
  east: number;
}

/** The whole map. */
const EARTH: Box = { south: -90, north: 90, west: -180, east: 180 };

/**
 * Visits every document within a box. `isSure` may say of a part of the map that all of it is wanted: then what lies
 * there is told as `sure`, and no point in it is looked at.
 */
export function searchBox(
  docs: Uint32Array,
  lngs: Float64Array,
  lats: Float64Array,
  box: Box,
  visit: (doc: number, sure: boolean) => void,
  isSure: (part: Box) => boolean = () => false,
): void {
  const offer = (doc: number): void => {
    const [lng, lat] = [lngs[doc]!, lats[doc]!];
    if (lng >= box.west && lng <= box.east && lat >= box.south && lat <= box.north) visit(doc, false);
  };
  const stack: [from: number, to: number, axis: number, part: Box][] = [[0, docs.length - 1, 0, EARTH]];
  for (let run = stack.pop(); run !== undefined; run = stack.pop()) {
    const [from, to, axis, part] = run;
    if (to - from <= LEAF) {
      for (let i = from; i <= to; i++) offer(docs[i]!);
      continue;
    }
    if (isSure(part)) {
      for (let i = from; i <= to; i++) visit(docs[i]!, true);
      continue;
    }
    const middle = (from + to) >>> 1;
    const root = docs[middle]!;
    offer(root);
    const byLng = axis === 0;
    const [value, low, high] = byLng ? [lngs[root]!, box.west, box.east] : [lats[root]!, box.south, box.north];
    if (low <= value) {
      stack.push([from, middle - 1, 1 - axis, byLng ? { ...part, east: value } : { ...part, north: value }]);
    }
    if (high >= value) {
      stack.push([middle + 1, to, 1 - axis, byLng ? { ...part, west: value } : { ...part, south: value }]);
    }
  }
}
