import type { YuccaClient } from '../client.ts';
import { withStanding, type Standing } from '../standing-client.ts';

/**
 * A client that asks a collection as the attributes `filter`, `tags` and `near` of an element say. Throws an Error for
 * a place that cannot be read.
 */
export function asAttributesSay(client: YuccaClient, element: Element, collection: string): YuccaClient {
  const listOf = (name: string): string[] | undefined =>
    element
      .getAttribute(name)
      ?.split(',')
      .map((one) => one.trim());
  return withStanding(client, {
    [collection]: {
      filter: element.getAttribute('filter') ?? undefined,
      tags: listOf('tags'),
      near: placeOf(listOf('near')),
    },
  });
}

/** Latitude and longitude in degrees and, if a third number says so, how many metres around it are searched. */
function placeOf(list: string[] | undefined): Standing['near'] {
  if (list === undefined) return undefined;
  const [lat, lng, withinM] = list.map((text) => (text === '' ? Number.NaN : Number(text)));
  const isPlace = list.length === 2 || list.length === 3;
  if (!isPlace || Number.isNaN(lat! + lng! + (withinM ?? 0)))
    throw new Error('near="…" must be a latitude, a longitude and, if wanted, a distance in metres: near="48.2,16.4"');
  return { lat: lat!, lng: lng!, ...(withinM !== undefined && { withinM }) };
}
