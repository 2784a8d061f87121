import type { Range } from '@yucca/contract';
import { markedPieces } from '../marks.ts';

/** A text with its matches in `<mark>` elements. */
export function Marked({ text, ranges }: { text: string; ranges?: readonly Range[] | undefined }) {
  return markedPieces(text, ranges).map((piece, i) => (piece.marked ? <mark key={i}>{piece.text}</mark> : piece.text));
}
