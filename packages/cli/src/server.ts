import { parsedJson } from '@yucca/contract';
import type { ProblemJson } from '@yucca/contract';

/** Where Yucca answers, and the key that is sent. */
export interface Access {
  url: string;
  key: string | undefined;
}

/** The server refused, or could not be reached; the sentence is for a person. */
export class Refused extends Error {
  override name = 'Refused';
  /** What the server answered with; 0 when it did not. */
  readonly status: number;

  constructor(detail: string, status = 0) {
    super(detail);
    this.status = status;
  }
}

/** Sends a request. Throws a Refused with what the server said. */
export async function request({ url, key }: Access, path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`${url.replace(/\/$/, '')}/api/v1${path}`, {
      ...init,
      headers: { ...(key ? { Authorization: `Bearer ${key}` } : {}), ...(init.headers as Record<string, string>) },
    });
  } catch (error) {
    const cause = (error as { cause?: Error }).cause?.message ?? (error as Error).message;
    throw new Refused(`Yucca does not answer at ${url}: ${cause}`);
  }
  if (response.ok) return response;
  const problem = (parsedJson(await response.text()) ?? {}) as Partial<ProblemJson>;
  const parts = (problem.errors ?? []).map(({ pointer, detail }) => `\n  ${pointer || 'the whole'}: ${detail}`);
  throw new Refused(`${response.status} ${problem.detail ?? response.statusText}${parts.join('')}`, response.status);
}

/** Sends JSON, or nothing, and reads JSON. */
export async function requestJson<T>(access: Access, path: string, method = 'GET', body?: unknown): Promise<T> {
  const sent =
    body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } };
  return (await (await request(access, path, { method, ...sent })).json()) as T;
}
