import { parsedJson } from '@yucca/contract';
import { ProblemError } from '@yucca/kit';
import type { ProblemJson } from '@yucca/contract';

interface AskInit extends RequestInit {
  json?: unknown;
}

/** Asks the HTTP API from a studio page. Throws a ProblemError with a sentence for a person when it refuses. */
export async function ask(path: string, { json, ...rest }: AskInit = {}): Promise<Response> {
  const headers = { ...pageHeaders(), ...(rest.headers as Record<string, string>) };
  const options: RequestInit =
    json === undefined
      ? { ...rest, headers }
      : { ...rest, body: JSON.stringify(json), headers: { ...headers, 'Content-Type': 'application/json' } };
  const response = await fetch(`/api/v1${path}`, options);
  if (response.ok) return response;
  const problem = parsedJson(await response.text()) as Partial<ProblemJson> | undefined;
  throw new ProblemError({
    type: 'about:blank',
    title: 'The server did not answer as expected',
    status: response.status,
    detail: '',
    ...problem,
  });
}

/** What the HTTP API answers, read as JSON. `onAnswer` sees a good answer before it is read. */
export async function api<T>(
  path: string,
  { onAnswer, ...init }: AskInit & { onAnswer?: (response: Response) => void } = {},
): Promise<T> {
  const response = await ask(path, init);
  onAnswer?.(response);
  return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
}

/** What shows that a page of the studio asks, where the browser does not say so by itself (plain HTTP elsewhere). */
export function pageHeaders(): Record<string, string> {
  const token = document.querySelector<HTMLMetaElement>('meta[name="yucca-page"]')?.content;
  return token ? { 'X-Yucca-Page': token } : {};
}
