import type { Snippet } from '@yucca/contract';
import { words } from '../../text/words.ts';
import { joinHits, type Hit } from './marker.ts';

/**
 * The part of a text, some words long, that shows most of the query: most different words of it, then most matches,
 * then the earliest. Begins and ends at words; dots say that the text goes on.
 */
export function makeSnippet(source: string, hits: readonly Hit[], length: number): Snippet {
  const list = words(source);
  if (list.length === 0) return { text: source.slice(0, length * 8).trim(), ranges: [] };
  const { from, to } = bestWindow(list, hits, length);
  // From the very start and to the very end, so that a whole text keeps its marks of punctuation.
  const start = from === 0 ? 0 : list[from]!.start;
  const end = to === list.length ? source.length : list[to - 1]!.end;
  const before = from === 0 ? '' : '…';
  const after = to === list.length ? '' : '…';
  const inside = hits.filter((hit) => hit.start >= start && hit.end <= end);
  const moved = inside.map((hit) => ({
    start: hit.start - start + before.length,
    end: hit.end - start + before.length,
  }));
  return { text: before + source.slice(start, end) + after, ranges: joinHits(moved) };
}

function bestWindow(
  list: readonly { start: number; end: number }[],
  hits: readonly Hit[],
  length: number,
): { from: number; to: number } {
  const size = Math.min(length, list.length);
  const sorted = [...hits].sort((a, b) => a.start - b.start);
  /** For each hit the number of the word it begins in. */
  let word = 0;
  const at = sorted.map((hit) => {
    while (word + 1 < list.length && list[word + 1]!.start <= hit.start) word++;
    return word;
  });
  let best = { from: 0, distinct: 0, count: 0, first: 0, last: 0 };
  for (let i = 0; i < sorted.length; i++) {
    const seen = new Set<number>();
    let j = i;
    for (; j < sorted.length && at[j]! < at[i]! + size; j++) seen.add(sorted[j]!.word);
    const count = j - i;
    if (seen.size > best.distinct || (seen.size === best.distinct && count > best.count)) {
      best = { from: at[i]!, distinct: seen.size, count, first: at[i]!, last: at[j - 1]! };
    }
  }
  // The matches in the middle of the window read best.
  const slack = size - (best.last - best.first + 1);
  const from = Math.max(0, Math.min(best.first - Math.floor(slack / 2), list.length - size));
  return { from: sorted.length === 0 ? 0 : from, to: (sorted.length === 0 ? 0 : from) + size };
}
