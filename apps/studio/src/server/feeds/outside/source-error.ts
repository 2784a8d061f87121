/** A source could not be read; the sentence is for a person. */
export class SourceError extends Error {
  override name = 'SourceError';
  /** It asks not to be asked again before so long, in seconds; null when it does not say. */
  readonly retryAfterS: number | null;
  /** Trying again changes nothing before somebody changes the feed. */
  readonly isLasting: boolean;

  constructor(detail: string, { retryAfterS = null as number | null, isLasting = false } = {}) {
    super(detail);
    this.retryAfterS = retryAfterS;
    this.isLasting = isLasting;
  }
}
