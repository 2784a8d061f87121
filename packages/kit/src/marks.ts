import type { Range } from '@yucca/contract';

/** A piece of text, marked or not. */
export interface MarkedPiece {
  text: string;
  marked: boolean;
}

/** Cuts a text at its ranges, in order; the pieces put together are the text. */
export function markedPieces(text: string, ranges: readonly Range[] = []): MarkedPiece[] {
  const pieces: MarkedPiece[] = [];
  let at = 0;
  for (const [start, end] of ranges) {
    if (start > at) pieces.push({ text: text.slice(at, start), marked: false });
    pieces.push({ text: text.slice(start, end), marked: true });
    at = end;
  }
  if (at < text.length) pieces.push({ text: text.slice(at), marked: false });
  return pieces;
}

/**
 * A part of a long text around its first mark, cut between words, with the ranges moved along. `length` is in UTF-16
 * units and may be passed by half a word.
 */
export function excerpt(text: string, ranges: readonly Range[], length = 160): { text: string; ranges: Range[] } {
  if (text.length <= length) return { text, ranges: [...ranges] };
  const first = ranges[0]?.[0] ?? 0;
  const wanted = Math.max(0, Math.min(first - Math.floor(length / 3), text.length - length));
  const start = wanted === 0 ? 0 : text.indexOf(' ', wanted) + 1 || wanted;
  const space = text.lastIndexOf(' ', start + length);
  const end = start + length >= text.length || space <= start ? Math.min(text.length, start + length) : space;
  const [before, after] = [start > 0 ? '… ' : '', end < text.length ? ' …' : ''];
  const moved = ranges
    .filter(([from, to]) => from >= start && to <= end)
    .map(([from, to]): Range => [from - start + before.length, to - start + before.length]);
  return { text: before + text.slice(start, end) + after, ranges: moved };
}
