import type { ProblemJson } from '@yucca/contract';

/** The server answered with Problem Details (RFC 9457). */
export class ProblemError extends Error {
  override name = 'ProblemError';
  readonly problem: ProblemJson;
  /** Seconds after which the server wants to be asked again; null when it does not say. */
  readonly retryAfterS: number | null;

  constructor(problem: ProblemJson, retryAfterS: number | null = null) {
    super(problem.detail || problem.title);
    this.problem = problem;
    this.retryAfterS = retryAfterS;
  }
}
