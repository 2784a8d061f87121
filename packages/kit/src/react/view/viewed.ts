import type { Card, SearchResult } from '@yucca/contract';
import { shownHit } from '../../card.ts';
import type { ViewedRecord } from '../../memory.ts';

/** A record as it is remembered when somebody has looked at it. */
export function viewedOf(
  collection: string,
  result: SearchResult,
  card: Card,
  picturesFrom: string,
  href?: string,
): ViewedRecord {
  const { title, detail, picture } = shownHit(result, card, picturesFrom);
  return { collection, id: result.id, text: title.text, detail: detail?.text, picture: picture ?? undefined, href };
}
