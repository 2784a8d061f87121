/** One bad part of a request: where (JSON Pointer, RFC 6901) and why. */
export interface ProblemPart {
  pointer: string;
  detail: string;
}

/** Problem Details (RFC 9457). */
export interface ProblemJson {
  type: string;
  title: string;
  status: number;
  detail: string;
  errors?: ProblemPart[];
}
