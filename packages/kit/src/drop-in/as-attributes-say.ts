import type { YuccaClient } from '../client.ts';
import { withStanding } from '../standing-client.ts';

/** A client that asks a collection as the attributes `filter` and `tags` of an element say. */
export function asAttributesSay(client: YuccaClient, element: Element, collection: string): YuccaClient {
  const [filter, tags] = ['filter', 'tags'].map((name) => element.getAttribute(name) ?? undefined);
  return withStanding(client, { [collection]: { filter, tags: tags?.split(',') } });
}
