const PIECE = 4_096;

/**
 * Has a long list gone through piece by piece: a function that is called often is compiled soon, while a loop that is
 * entered once runs half compiled for long.
 */
export function inPieces(length: number, run: (from: number, to: number) => void): void {
  for (let from = 0; from < length; from += PIECE) run(from, Math.min(from + PIECE, length));
}
