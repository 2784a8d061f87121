import { parsedJson } from '@yucca/contract';
import { ProblemError } from '@yucca/kit';
import type { ProblemJson } from '@yucca/contract';

/** Calls the HTTP API from a studio page. Throws a ProblemError with a sentence for a person when it refuses. */
export async function api<T>(
  path: string,
  init: RequestInit & {
    json?: unknown;
    /** Sees a good answer before it is read. */ onAnswer?: (response: Response) => void;
  } = {},
): Promise<T> {
  const { json, onAnswer, ...rest } = init;
  const headers = { ...pageHeaders(), ...(rest.headers as Record<string, string>) };
  const options: RequestInit =
    json === undefined
      ? { ...rest, headers }
      : { ...rest, body: JSON.stringify(json), headers: { ...headers, 'Content-Type': 'application/json' } };
  const response = await fetch(`/api/v1${path}`, options);
  if (response.ok) onAnswer?.(response);
  if (response.status === 204) return undefined as T;
  if (response.ok) return (await response.json()) as T;
  const problem = parsedJson(await response.text()) as Partial<ProblemJson> | undefined;
  throw new ProblemError({
    type: 'about:blank',
    title: 'The server did not answer as expected',
    status: response.status,
    detail: '',
    ...problem,
  });
}

/** What shows that a page of the studio asks, where the browser does not say so by itself (plain HTTP elsewhere). */
export function pageHeaders(): Record<string, string> {
  const token = document.querySelector<HTMLMetaElement>('meta[name="yucca-page"]')?.content;
  return token ? { 'X-Yucca-Page': token } : {};
}
