import { MOST_BYTES } from '@/formats/whole-formats';
import { Failure } from '../failure';
import { isRemoteError } from '../workers/rpc';

/** Pieces in which JSON that was made here is handed on. */
const PIECE_BYTES = 256 * 1024;

/**
 * An input of a format that is read as a whole, as pieces of JSON. Throws a Failure with a sentence when it is too
 * large or cannot be read.
 */
export async function* wholeAsJson(
  body: AsyncIterable<Uint8Array>,
  convert: (bytes: Uint8Array) => Promise<Uint8Array>,
): AsyncGenerator<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of body) {
    bytes += chunk.length;
    if (bytes > MOST_BYTES)
      throw new Failure(
        'too-large',
        `Files of this format are read as a whole, up to ${MOST_BYTES / 1024 / 1024} MB. Send CSV or JSON Lines; those may be of any size.`,
      );
    chunks.push(chunk);
  }
  let json: Uint8Array;
  try {
    json = await convert(Buffer.concat(chunks));
  } catch (error) {
    if (isRemoteError(error) && error.note.name === 'FormatError') throw new Failure('invalid', error.message);
    throw error;
  }
  for (let at = 0; at < json.length; at += PIECE_BYTES) yield json.subarray(at, at + PIECE_BYTES);
}
