import { parsedJson } from '@yucca/contract';
import type { Operation } from '@yucca/contract/openapi';

/** What somebody has filled in for an operation. */
export interface Filled {
  path: Record<string, string>;
  query: Record<string, string>;
  body: string;
}

/** The names between braces in an operation's path. */
export const pathNames = ({ path }: Operation): string[] => [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => name!);

/** What an operation begins with: its examples. */
export function startOf(operation: Operation, known: Record<string, string>): Filled {
  const examples = (operation.query ?? []).filter(({ example }) => example !== undefined);
  const asked = operation.id === 'searchByAddress' || operation.id === 'suggest' || operation.id === 'facetValues';
  const example = operation.body?.[0]?.example;
  return {
    path: Object.fromEntries(pathNames(operation).map((name) => [name, known[name] ?? ''])),
    query: Object.fromEntries(
      asked ? examples.filter(({ name }) => name === 'q').map((one) => [one.name, String(one.example)]) : [],
    ),
    body: example === undefined ? '' : JSON.stringify(example, null, 2),
  };
}

/** The address of a filled-in operation, from `/api/v1` on. */
export function addressOf(operation: Operation, { path, query }: Filled): string {
  const route = operation.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(path[name] ?? ''));
  const asked = Object.entries(query).filter(([, value]) => value !== '');
  const search = asked.map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('&');
  return `/api/v1${route}${search === '' ? '' : `?${search}`}`;
}

const quoted = (text: string): string => `'${text.replaceAll("'", `'\\''`)}'`;

/** The same request for a shell. */
export function asCurl(operation: Operation, filled: Filled, origin: string, key: string): string {
  const method = operation.method.toUpperCase();
  const parts = [
    `curl${method === 'GET' ? '' : ` -X ${method}`} ${quoted(origin + addressOf(operation, filled))}`,
    ...(operation.right === 'none'
      ? []
      : [`  -H ${key.startsWith('$') ? `"Authorization: Bearer ${key}"` : quoted(`Authorization: Bearer ${key}`)}`]),
    ...(operation.body
      ? [`  -H ${quoted(`Content-Type: ${operation.body[0]!.type}`)}`, `  -d ${quoted(compact(filled.body))}`]
      : []),
  ];
  return parts.join(' \\\n');
}

/** The same request for a program. */
export function asFetch(operation: Operation, filled: Filled, origin: string, key: string): string {
  const method = operation.method.toUpperCase();
  const secret = key.startsWith('$') ? `\${process.env.${key.slice(1)}}` : key;
  const quote = key.startsWith('$') ? '`' : "'";
  const headers = [
    ...(operation.right === 'none' ? [] : [`    Authorization: ${quote}Bearer ${secret}${quote},`]),
    ...(operation.body ? [`    'Content-Type': '${operation.body[0]!.type}',`] : []),
  ];
  const lines = [
    `const response = await fetch('${origin}${addressOf(operation, filled).replaceAll("'", '%27')}', {`,
    ...(method === 'GET' ? [] : [`  method: '${method}',`]),
    ...(headers.length > 0 ? ['  headers: {', ...headers, '  },'] : []),
    ...(operation.body ? [`  body: JSON.stringify(${filled.body.trim().replaceAll('\n', '\n  ')}),`] : []),
    '});',
    operation.answers[204] === null ? 'console.log(response.status);' : 'const answer = await response.json();',
  ];
  return lines.join('\n');
}

function compact(body: string): string {
  const value = parsedJson(body);
  return value === undefined ? body : JSON.stringify(value);
}
