import type { Box } from './kd-tree.ts';

/** A point on the earth, in degrees. */
export interface Position {
  lat: number;
  lng: number;
}

/**
 * Reads a position: a GeoJSON Point (RFC 7946), `{lat, lng}` (also `lon`, `latitude`, `longitude`), or `[lng, lat]`.
 * Null when it is none, or lies outside -90..90 and -180..180.
 */
export function readPosition(value: unknown): Position | null {
  if (value === null || typeof value !== 'object') return null;
  if (Array.isArray(value)) {
    if (value.length < 2 || typeof value[0] === 'object') return null;
    return checked(value[1], value[0]);
  }
  const object = value as Record<string, unknown>;
  if (object.type === 'Point' && Array.isArray(object.coordinates)) {
    return checked(object.coordinates[1], object.coordinates[0]);
  }
  return checked(object.lat ?? object.latitude, object.lng ?? object.lon ?? object.longitude);
}

function checked(lat: unknown, lng: unknown): Position | null {
  if (typeof lat !== 'number' || typeof lng !== 'number') return null;
  if (!(lat >= -90 && lat <= 90 && lng >= -180 && lng <= 180)) return null;
  return { lat, lng };
}

/** The IUGG mean radius of the earth, in metres. */
const EARTH_RADIUS_M = 6_371_008.8;
const RADIANS = Math.PI / 180;

/** Great-circle distance in metres, by the haversine formula (Sinnott 1984). */
export function distanceM(a: Position, b: Position): number {
  return distancesFrom(a)(b.lat, b.lng);
}

/** The same from one position to many. */
export function distancesFrom(from: Position): (lat: number, lng: number) => number {
  const cosLat = Math.cos(from.lat * RADIANS);
  return (lat, lng) => {
    const sinLat = Math.sin(((lat - from.lat) * RADIANS) / 2);
    const sinLng = Math.sin(((lng - from.lng) * RADIANS) / 2);
    const h = sinLat * sinLat + cosLat * Math.cos(lat * RADIANS) * sinLng * sinLng;
    return 2 * EARTH_RADIUS_M * Math.asin(Math.min(1, Math.sqrt(h)));
  };
}

/**
 * No point of a box is further from its middle, in metres: half its height along a meridian, then half its width along
 * a parallel, which is never longer than on the equator.
 */
export function halfDiagonalM({ south, north, west, east }: Box): number {
  return (EARTH_RADIUS_M * RADIANS * (north - south + (east - west))) / 2;
}

/** The box around a circle, in degrees; `lng` may reach past ±180 where the circle crosses the date line. */
export function boxAround({ lat, lng }: Position, withinM: number): Box {
  const angle = withinM / EARTH_RADIUS_M;
  // A hair wider, so that rounding never leaves out what lies on the edge; the distance decides in the end.
  const degrees = angle / RADIANS + 1e-9;
  const [south, north] = [lat - degrees, lat + degrees];
  if (south <= -90 || north >= 90) return { south, north, west: -180, east: 180 };
  const ratio = Math.sin(Math.min(angle, Math.PI / 2)) / Math.cos(lat * RADIANS);
  if (ratio >= 1) return { south, north, west: -180, east: 180 };
  const span = Math.asin(ratio) / RADIANS + 1e-9;
  return { south, north, west: lng - span, east: lng + span };
}
