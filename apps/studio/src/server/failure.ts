import type { ProblemPart } from '@yucca/contract';

/** Why a service could not do what it was asked; turned into problem+json in one place (http/problem.ts). */
export type FailureCode =
  | 'unreadable'
  | 'unauthorised'
  | 'forbidden'
  | 'not-found'
  | 'wrong-method'
  | 'too-slow'
  | 'conflict'
  | 'stale'
  | 'too-large'
  | 'too-long'
  | 'unsupported-type'
  | 'not-expected'
  | 'invalid'
  | 'too-many'
  | 'too-many-headers'
  | 'starting'
  | 'unavailable';

/** A failure with a code and a sentence for a person. Thrown by services; anything else thrown is a defect. */
export class Failure extends Error {
  override name = 'Failure';
  readonly code: FailureCode;
  readonly parts: ProblemPart[];
  /** Members of the problem besides the usual ones (RFC 9457, section 3.2). */
  readonly members: Readonly<Record<string, number>>;

  constructor(code: FailureCode, detail: string, parts: ProblemPart[] = [], members: Record<string, number> = {}) {
    super(detail);
    this.code = code;
    this.parts = parts;
    this.members = members;
  }
}

/**
 * Whether something thrown is a Failure. Told by name: the framework instantiates modules more than once, and a class
 * of one instance is not the class of another.
 */
export function isFailure(error: unknown): error is Failure {
  return error instanceof Error && error.name === 'Failure';
}
