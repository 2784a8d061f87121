import { sectionRuns, type Card, type PageSection, type SearchResult } from '@yucca/contract';
import { shownHit } from '../card.ts';
import type { YuccaClient } from '../client.ts';
import { figure, type FigureFormat } from '../figures.ts';
import type { Memory } from '../memory.ts';
import { recordLink } from '../record-link.ts';
import { addressSource, listSource } from './own-sources.ts';
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

/** The fields that a card shows, and those that its link is made of. */
export const fieldsOf = (card: Card, link = ''): string[] => {
  const inLink = [...link.matchAll(/\{([^{}]*)\}/g)].map(([, path]) => path!).filter((path) => path !== 'id');
  return [...new Set([...Object.values(card), ...inLink].filter((field): field is string => !!field))];
};

/** What the rows of a section show besides their titles, and where they lead. */
export type RowLook = Pick<PageSection, 'parts' | 'link' | 'format'>;

/** The row of a record in the list: what its result card shows, shorter. */
export function shownRow(
  result: SearchResult,
  card: Card,
  picturesFrom = '',
  { parts = ['picture', 'detail'], link, format }: RowLook = {},
  written: (value: number, format?: FigureFormat) => string = figure,
): Pick<Offer, 'text' | 'ranges' | 'detail' | 'picture' | 'href'> {
  const { title, detail, thumbnail: picture, number } = shownHit(result, card, picturesFrom);
  const lines = [
    parts.includes('detail') && detail?.text,
    parts.includes('number') && number && written(number.value, format),
  ].filter(Boolean);
  const href = link && recordLink(link, result.id, result.record);
  return {
    text: title.text,
    ranges: title.ranges,
    ...(lines.length > 0 && { detail: lines.join(' · ') }),
    ...(parts.includes('picture') && picture && { picture }),
    ...(href && { href }),
  };
}

/**
 * The sources for the sections of a page. Neighbours that show records are asked in one request. `least`: letters
 * before which no server is asked; `written`: how numbers are, in the language of the page.
 */
export function sourcesFor(
  sections: readonly PageSection[],
  client: YuccaClient,
  memory: Memory,
  picturesFrom?: string,
  least = 0,
  written?: (value: number, format?: FigureFormat) => string,
): Source[] {
  return sectionRuns(sections).flatMap((run, i): Source[] => {
    const [section] = run as [PageSection];
    const { from, label, size, collection, letters } = section;
    const here = { label, size, ...(letters !== undefined && { from: letters }) };
    const name = `${from}-${i}`;
    const first = Math.max(letters ?? 1, least);
    if (from === 'past') return [pastQueriesSource(memory, here)];
    if (from === 'viewed') return [viewedSource(memory, here)];
    if (from === 'list') return [listSource(section, name)];
    if (from === 'address') return [addressSource({ ...section, letters: first }, name)];
    if (from === 'values') return collection ? [completionsSource(client, { ...here, collection, from: first })] : [];
    const shown = run.filter(hasCollection).map((one) => ({
      ...one,
      fields: fieldsOf(one.card, one.link),
      row: (result: SearchResult) => shownRow(result, one.card, picturesFrom, one, written),
    }));
    const when = from === 'popular' ? { from: 0, upTo: 0, totals: false } : { from: first };
    return [recordsSource(client, shown, { name, ...when })];
  });
}
