import { Readable } from 'node:stream';

type Piece = string | Uint8Array;

/**
 * Pieces as the body of a reply. The first is asked for before anything is answered, so that what is wrong is told with
 * a status of its own. Rejects with what making it threw.
 */
export async function bodyOf(pieces: AsyncGenerator<Piece>): Promise<Readable> {
  const first = await pieces.next();
  return Readable.from(withFirst(first, pieces), { objectMode: false });
}

/** Given up, whatever makes the pieces is given up too. */
async function* withFirst(first: IteratorResult<Piece>, rest: AsyncGenerator<Piece>): AsyncGenerator<Piece> {
  try {
    if (!first.done) yield first.value;
    yield* rest;
  } finally {
    await rest.return(undefined);
  }
}
