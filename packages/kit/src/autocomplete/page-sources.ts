import { sectionRuns, type Card, type PageSection, type SearchResult } from '@yucca/contract';
import { shownHit } from '../card.ts';
import type { YuccaClient } from '../client.ts';
import type { Memory } from '../memory.ts';
import {
  completionsSource,
  pastQueriesSource,
  recordsSource,
  viewedSource,
  type Offer,
  type Source,
} from './source.ts';

type OfCollection = PageSection & { collection: string; card: Card };

const hasCollection = (section: PageSection): section is OfCollection =>
  section.collection !== undefined && section.card !== undefined;

/** The fields that a card shows. */
export const fieldsOf = (card: Card): string[] => [
  ...new Set(Object.values(card).filter((field): field is string => !!field)),
];

/** The row of a record in the list: what its result card shows, shorter. */
export function shownRow(
  result: SearchResult,
  card: Card,
  picturesFrom = '',
): Pick<Offer, 'text' | 'ranges' | 'detail' | 'picture'> {
  const { title, detail, picture } = shownHit(result, card, picturesFrom);
  return {
    text: title.text,
    ranges: title.ranges,
    ...(detail && { detail: detail.text }),
    ...(picture && { picture }),
  };
}

/** The sources for the sections of a page. Neighbours that show records are asked in one request. */
export function sourcesFor(
  sections: readonly PageSection[],
  client: YuccaClient,
  memory: Memory,
  picturesFrom?: string,
): Source[] {
  return sectionRuns(sections).flatMap((run, i): Source[] => {
    const [{ from, label, size, collection }] = run as [PageSection];
    if (from === 'past') return [pastQueriesSource(memory, { label, size })];
    if (from === 'viewed') return [viewedSource(memory, { label, size })];
    if (from === 'values') return collection ? [completionsSource(client, { collection, label, size })] : [];
    const shown = run.filter(hasCollection).map((section) => ({
      ...section,
      fields: fieldsOf(section.card),
      row: (result: SearchResult) => shownRow(result, section.card, picturesFrom),
    }));
    const when = from === 'popular' ? { from: 0, upTo: 0, totals: false } : {};
    return [recordsSource(client, shown, { name: `${from}-${i}`, ...when })];
  });
}
