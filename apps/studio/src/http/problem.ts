import type { ProblemJson } from '@yucca/contract';
import { isFailure, type FailureCode } from '@/server/failure';
import type { RateState } from '@/server/keys/rates';
import { runtime } from '@/server/runtime';
import { storageFailureOf } from '@/server/storage/storage-failure';
import { Reply } from './reply';

const PROBLEMS: Record<FailureCode, [status: number, title: string]> = {
  unreadable: [400, 'The request cannot be read'],
  unauthorised: [401, 'A key is needed'],
  forbidden: [403, 'The key lacks the right'],
  'not-found': [404, 'Not found'],
  'wrong-method': [405, 'Method not allowed'],
  'too-slow': [408, 'The request came too slowly'],
  conflict: [409, 'Conflict'],
  stale: [412, 'Changed meanwhile'],
  'too-large': [413, 'Too large'],
  'too-long': [414, 'The address is too long'],
  'unsupported-type': [415, 'Media type not supported'],
  'not-expected': [417, 'Expectation failed'],
  invalid: [422, 'The request is not valid'],
  'too-many': [429, 'Too many requests'],
  'too-many-headers': [431, 'The headers are too large'],
  starting: [503, 'Starting'],
  unavailable: [503, 'Not available just now'],
};

/** Turns whatever a service threw into Problem Details (RFC 9457). The one place where errors become HTTP. */
export function problemReply(error: unknown): Reply {
  if (error instanceof Error && error.name === 'SearchCancelled') return new Reply(null, { status: 499 });
  const problem = problemOf(error);
  const headers: Record<string, string> = { 'Content-Type': 'application/problem+json' };
  if (problem.status === 401) headers['WWW-Authenticate'] = 'Bearer';
  if (problem.status === 503) headers['Retry-After'] = '1';
  if (problem.status === 429) headers['Retry-After'] = String(rateOf(error)?.resetS ?? 60);
  const rate = rateOf(error);
  if (rate !== null) Object.assign(headers, rateHeaders(rate));
  return new Reply(JSON.stringify(problem), { status: problem.status, headers });
}

/** How the rate of a key is told (RateLimit fields, draft-ietf-httpapi-ratelimit-headers). */
export function rateHeaders(rate: RateState): Record<string, string> {
  return {
    'RateLimit-Policy': `"minute";q=${rate.limit};w=60`,
    RateLimit: `"minute";r=${rate.remaining};t=${rate.resetS}`,
  };
}

function rateOf(error: unknown): RateState | null {
  return isFailure(error) && 'rate' in error ? (error.rate as RateState) : null;
}

/** The problem alone, for answers that hold several. A defect is written in the log and told without its cause. */
export function problemOf(thrown: unknown): ProblemJson {
  const error = isFailure(thrown) ? thrown : (storageFailureOf(thrown) ?? thrown);
  if (isFailure(error)) {
    const [status, title] = PROBLEMS[error.code];
    const problem: ProblemJson = {
      type: `urn:yucca:problem:${error.code}`,
      title,
      status,
      detail: error.message,
      ...error.members,
    };
    if (error.parts.length > 0) problem.errors = error.parts;
    return problem;
  }
  runtime().log.error(
    { error: error instanceof Error ? (error.stack ?? error.message) : String(error) },
    'request failed',
  );
  return {
    type: 'urn:yucca:problem:internal',
    title: 'Something went wrong here',
    status: 500,
    detail: 'Yucca made a mistake while answering. It is written in the log.',
  };
}
