/** What is told of a file that cannot be read to whoever sent it; a sentence. */
export class FormatError extends Error {
  override name = 'FormatError';
}
