/**
 * Where a geometry of GeoJSON (RFC 7946) lies: a point itself; of lines and shapes the middle of their box, which is
 * enough to find what is near. Null for what is no geometry. Longitudes come first there.
 */
export function centreOf(geometry: unknown): { lat: number; lng: number } | null {
  const box = { west: Infinity, south: Infinity, east: -Infinity, north: -Infinity };
  addTo(box, geometry, 0);
  if (!(box.west <= box.east) || box.south < -90 || box.north > 90 || box.west < -180 || box.east > 180) return null;
  const rounded = (degrees: number): number => Math.round(degrees * 1e6) / 1e6;
  return { lat: rounded((box.south + box.north) / 2), lng: rounded((box.west + box.east) / 2) };
}

interface Box {
  west: number;
  south: number;
  east: number;
  north: number;
}

/** Levels of lists in coordinates: a collection of polygons has six. */
const LEVELS = 8;

function addTo(box: Box, part: unknown, level: number): void {
  if (level > LEVELS || part === null || typeof part !== 'object') return;
  if (!Array.isArray(part)) {
    const { coordinates, geometries } = part as { coordinates?: unknown; geometries?: unknown };
    return addTo(box, coordinates ?? geometries, level + 1);
  }
  const [lng, lat] = part as unknown[];
  if (typeof lng !== 'number' || typeof lat !== 'number') {
    for (const inner of part) addTo(box, inner, level + 1);
    return;
  }
  box.west = Math.min(box.west, lng);
  box.east = Math.max(box.east, lng);
  box.south = Math.min(box.south, lat);
  box.north = Math.max(box.north, lat);
}
