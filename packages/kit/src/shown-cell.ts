import { fieldFormat, valuesAt, type InterfacePage, type SearchResult } from '@yucca/contract';
import { shownHit, textAt, type ShownText } from './card.ts';
import type { Texts } from './texts/texts.ts';

/** What a cell of a table says: a picture's address, a number as it is written, or a text with what matched. */
export type ShownCell = { picture: string } | { figure: string } | ShownText;

/** Letters of a cell at most. */
const MOST = 160;

const plain = (text: string): ShownText => ({ text, ranges: [] });

/**
 * What a field of a result says in a table: its text with what matched, its number as the language and the page write
 * it, its list with commas; a dash where it is empty. `picturesFrom` goes before addresses that begin with a slash.
 */
export function shownCell(
  result: SearchResult,
  field: string,
  { card, formats }: Pick<InterfacePage, 'card' | 'formats'>,
  { figure }: Pick<Texts, 'figure'>,
  picturesFrom = '',
): ShownCell {
  const picture = field === card.picture && shownHit(result, card, picturesFrom).thumbnail;
  if (picture) return { picture };
  const value = valuesAt(result.record, field);
  if (typeof value === 'number') return { figure: figure(value, fieldFormat(formats, field)) };
  if (Array.isArray(value) && value.every((one) => typeof one !== 'object')) return plain(value.join(', '));
  return value === true ? plain('✓') : (textAt(result, field, MOST) ?? plain('–'));
}
