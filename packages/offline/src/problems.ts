import type { ProblemJson } from '@yucca/contract';

/** What the engine throws at a request that can't be answered; told by name, for errors lose their class on the way. */
const REFUSED = ['SearchRequestError', 'FilterError'];

/** An error as a server would answer it. */
export function asProblem({ name, message }: Error): ProblemJson {
  const asked = REFUSED.includes(name);
  return {
    type: `urn:yucca:problem:${asked ? 'invalid' : 'unavailable'}`,
    title: asked ? 'The request is not valid' : 'The search does not work here',
    status: asked ? 422 : 503,
    detail: message,
  };
}
