import { valueAt } from '@yucca/contract';

/** A position on the earth, in degrees. */
export interface Point {
  lat: number;
  lng: number;
}

const isPoint = (lat: unknown, lng: unknown): boolean =>
  typeof lat === 'number' && typeof lng === 'number' && Math.abs(lat) <= 90 && Math.abs(lng) <= 180;

/** Reads a GeoJSON Point (RFC 7946), `{lat, lng}` or `[lng, lat]`; null for anything else. */
export function pointOf(value: unknown): Point | null {
  if (value === null || typeof value !== 'object') return null;
  const { coordinates, lat, lng } = value as { coordinates?: unknown; lat?: unknown; lng?: unknown };
  if (isPoint(lat, lng)) return { lat: lat as number, lng: lng as number };
  const pair: unknown = coordinates ?? value;
  return Array.isArray(pair) && isPoint(pair[1], pair[0]) ? { lat: pair[1] as number, lng: pair[0] as number } : null;
}

/** The position under a dotted path of a record. */
export function pointAt(record: unknown, path: string): Point | null {
  return pointOf(valueAt(record, path));
}

const KM_PER_DEGREE = 111.195;

export interface MapFrame {
  /** Where a point lies on the drawing, in its units; y grows downwards. */
  place: (point: Point) => { x: number; y: number };
  /** Units of the drawing that a kilometre takes. */
  perKm: number;
}

/**
 * Fits points into a drawing: the equirectangular projection with the standard parallel through their middle (Snyder,
 * "Map Projections: A Working Manual", 1987, ch. 12). True enough for the size of a county; the scale is the same in
 * both directions. `margin` stays free on each side; a single point is shown with a few kilometres around it.
 */
export function frameFor(points: readonly Point[], width: number, height: number, margin: number): MapFrame {
  const lats = points.map(({ lat }) => lat);
  const lngs = points.map(({ lng }) => lng);
  const [south, north] = [Math.min(...lats), Math.max(...lats)];
  const [west, east] = [Math.min(...lngs), Math.max(...lngs)];
  const middle = { lat: (south + north) / 2 || 0, lng: (west + east) / 2 || 0 };
  const shrink = Math.cos((middle.lat * Math.PI) / 180);
  const spanX = Math.max(4, (east - west) * KM_PER_DEGREE * shrink || 0);
  const spanY = Math.max(4, (north - south) * KM_PER_DEGREE || 0);
  const perKm = Math.min((width - 2 * margin) / spanX, (height - 2 * margin) / spanY);
  return {
    perKm,
    place: ({ lat, lng }) => ({
      x: width / 2 + (lng - middle.lng) * KM_PER_DEGREE * shrink * perKm,
      y: height / 2 - (lat - middle.lat) * KM_PER_DEGREE * perKm,
    }),
  };
}

/** The greatest of 1, 2, 5, 10, 20 … (and their fractions) that is not above `most`. */
export function roundBelow(most: number): number {
  const power = 10 ** Math.floor(Math.log10(most));
  const first = most / power;
  return (first >= 5 ? 5 : first >= 2 ? 2 : 1) * power;
}
