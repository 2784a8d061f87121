'use client';

import { parsedJson } from '@yucca/contract';
import { GROUPS, OPERATIONS, SCHEMAS, type Operation } from '@yucca/contract/openapi';
import clsx from 'clsx';
import { useState, useSyncExternalStore } from 'react';
import { pageHeaders } from '@/ui/api';
import { Button } from '@/ui/button';
import { ConfirmByName } from '@/ui/confirm-by-name';
import { CopyButton } from '@/ui/copy-button';
import { bytes, milliseconds } from '@/ui/format';
import { useParam } from '@/ui/use-param';
import { addressOf, asCurl, asFetch, pathNames, startOf, type Filled } from './request';
import { SchemaView } from './schema-view';

/** What is known of the data at hand: filled into the examples. */
export interface Known {
  collection: string;
  /** A key of a record of it. */
  id: string;
  field: string;
}

const useOrigin = (): string =>
  useSyncExternalStore(
    () => () => {},
    () => window.location.origin,
    () => '',
  );

/** The whole HTTP API: what each route takes and answers, examples with the data at hand, and a way to try it. */
export function ApiScreen({ known, names, searchKey }: { known: Known; names: string[]; searchKey: string }) {
  const [chosen, setChosen] = useParam('op');
  const [collection, setCollection] = useParam('collection');
  const operation = OPERATIONS.find(({ id }) => id === chosen) ?? OPERATIONS.find(({ id }) => id === 'search')!;
  const name = collection !== '' && names.includes(collection) ? collection : known.collection;
  return (
    <>
      <nav aria-label="Operations" className="w-64 shrink-0 overflow-y-auto border-r border-line bg-raised py-3">
        <p className="px-4 pb-2">
          <a className="link" href="/api/v1/openapi.json">
            openapi.json
          </a>{' '}
          <span className="text-soft">OpenAPI 3.1</span>
        </p>
        {Object.keys(GROUPS).map((group) => (
          <section key={group}>
            <h2 className="px-4 pt-2 pb-1 text-[13px] text-soft">{group}</h2>
            <ul>
              {OPERATIONS.filter((one) => one.group === group).map((one) => (
                <li key={one.id}>
                  <button
                    type="button"
                    aria-current={one.id === operation.id ? 'true' : undefined}
                    className={clsx(
                      'block min-h-6 w-full px-4 py-0.5 text-left text-[13px] leading-[18px]',
                      one.id === operation.id ? 'bg-agave-tint font-medium' : 'hover:bg-sunk',
                    )}
                    onClick={() => setChosen(one.id, 'push')}
                  >
                    {one.summary}
                  </button>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </nav>
      <OperationView
        key={`${operation.id}/${name}`}
        operation={operation}
        known={{ ...known, collection: name }}
        names={names}
        searchKey={searchKey}
        onCollection={(next) => setCollection(next)}
      />
    </>
  );
}

interface Answer {
  status: number;
  ok: boolean;
  ms: number;
  size: number;
  headers: [string, string][];
  body: string;
}

/** Answers longer than this are cut on screen. */
const SHOWN = 60_000;

async function send(operation: Operation, filled: Filled): Promise<Answer> {
  const start = performance.now();
  const response = await fetch(addressOf(operation, filled), {
    method: operation.method.toUpperCase(),
    headers: { ...pageHeaders(), ...(operation.body ? { 'Content-Type': operation.body[0]!.type } : {}) },
    ...(operation.body ? { body: filled.body } : {}),
  });
  const text = await response.text();
  const ms = performance.now() - start;
  const kept = ['content-type', 'etag', 'server-timing', 'location', 'ratelimit'];
  const value = parsedJson(text);
  const body = value === undefined ? text : JSON.stringify(value, null, 2);
  return {
    status: response.status,
    ok: response.ok,
    ms,
    size: new TextEncoder().encode(text).length,
    headers: [...response.headers].filter(([name]) => kept.includes(name)),
    body: body.length > SHOWN ? `${body.slice(0, SHOWN)}\n…` : body,
  };
}

function OperationView({
  operation,
  known,
  names,
  searchKey,
  onCollection,
}: {
  operation: Operation;
  known: Known;
  names: string[];
  searchKey: string;
  onCollection: (name: string) => void;
}) {
  const origin = useOrigin();
  const [filled, setFilled] = useState<Filled>(() => startOf(operation, { ...known }));
  const [answer, setAnswer] = useState<Answer | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [language, setLanguage] = useState<'curl' | 'fetch'>('curl');
  const key = operation.right === 'search' ? searchKey : '$YUCCA_KEY';
  const example = (language === 'curl' ? asCurl : asFetch)(operation, filled, origin, key);
  const [asking, setAsking] = useState(false);
  const run = async (): Promise<void> => {
    setProblem(null);
    await send(operation, filled).then(setAnswer, (error: Error) => setProblem(error.message));
  };
  // A collection is deleted for good, here as elsewhere in the studio only after its name was typed.
  const target = operation.id === 'deleteCollection' ? (filled.path.collection ?? '') : null;
  const destroys = operation.method !== 'get' && operation.right !== 'search';
  const schema = operation.body ? SCHEMAS[operation.body[0]!.schema] : undefined;
  const answers = Object.values(operation.answers).flatMap((contents) => contents ?? []);
  return (
    <div className="grid min-w-0 flex-1 grid-cols-2 overflow-hidden">
      <section className="overflow-y-auto px-6 py-4" aria-label="What it takes">
        <h1 className="text-[20px] leading-7">{operation.summary}</h1>
        <p className="figures mb-2 text-[13px]">
          <strong className="font-medium text-agave uppercase">{operation.method}</strong> /api/v1{operation.path}
        </p>
        <p className="mb-3 text-soft">
          {operation.more}{' '}
          {operation.right === 'none'
            ? 'Needs no key.'
            : `Needs the right to ${operation.right === 'admin' ? 'administer' : operation.right}.`}
        </p>
        <Parameters
          operation={operation}
          filled={filled}
          names={names}
          onCollection={onCollection}
          onFilled={setFilled}
        />
        {operation.body && (
          <label className="mb-3 block">
            <span className="mb-1 block font-medium">
              Body{' '}
              <span className="figures text-xs font-normal text-soft">
                {operation.body.map(({ type }) => type).join(', ')}
              </span>
            </span>
            <textarea
              className="field figures text-[13px] leading-5"
              spellCheck={false}
              rows={Math.min(14, filled.body.split('\n').length + 1)}
              value={filled.body}
              onChange={(event) => setFilled({ ...filled, body: event.target.value })}
            />
          </label>
        )}
        {schema && (
          <details className="mb-3" open={operation.right === 'search'}>
            <summary className="font-medium">What the body may hold</summary>
            <SchemaView schema={schema} />
          </details>
        )}
        {answers.some(({ type }) => type === 'application/json') && (
          <details className="mb-3">
            <summary className="font-medium">What it answers</summary>
            <SchemaView schema={SCHEMAS[answers[0]!.schema]!} />
          </details>
        )}
      </section>
      <section
        className="flex min-w-0 flex-col overflow-y-auto border-l border-line bg-raised px-6 py-4"
        aria-label="Try it"
      >
        <div className="mb-2 flex items-center gap-2">
          <div role="group" aria-label="Example for" className="flex rounded-md border border-line">
            {(['curl', 'fetch'] as const).map((name) => (
              <button
                key={name}
                type="button"
                aria-pressed={language === name}
                className="figures min-h-7 rounded-[5px] px-3 text-[13px] aria-pressed:bg-ink aria-pressed:text-paper"
                onClick={() => setLanguage(name)}
              >
                {name}
              </button>
            ))}
          </div>
          <CopyButton text={example} />
          <Button
            kind={destroys ? 'danger' : 'primary'}
            className="ml-auto"
            onClick={() => (target ? setAsking(true) : void run())}
          >
            {destroys ? 'Send for real' : 'Send request'}
          </Button>
          {asking && target && (
            <ConfirmByName
              name={target}
              title={`Delete the collection “${target}”?`}
              verb="Delete collection"
              onConfirm={run}
              onClose={() => setAsking(false)}
            >
              Its records, tuning and judgements are deleted with it. They cannot be brought back.
            </ConfirmByName>
          )}
        </div>
        <pre
          className="figures mb-3 shrink-0 overflow-x-auto rounded-md bg-sunk p-3 text-xs leading-5"
          tabIndex={0}
          aria-label="The request as code"
        >
          {example}
        </pre>
        {problem && (
          <p role="alert" className="text-madder">
            {problem}
          </p>
        )}
        {answer && (
          <>
            <p role="status" className="figures mb-1 text-[13px]">
              <strong className={clsx('font-medium', answer.ok ? 'text-agave' : 'text-madder')}>{answer.status}</strong>{' '}
              <span className="text-soft">
                in {milliseconds(answer.ms)}, {bytes(answer.size)}
              </span>
            </p>
            <dl className="figures mb-2 text-xs text-soft">
              {answer.headers.map(([name, value]) => (
                <div key={name} className="flex gap-2">
                  <dt>{name}:</dt>
                  <dd className="truncate">{value}</dd>
                </div>
              ))}
            </dl>
            <pre
              className="figures min-h-40 flex-1 overflow-auto rounded-md border border-line p-3 text-xs leading-5"
              tabIndex={0}
              aria-label="The answer"
            >
              {answer.body}
            </pre>
          </>
        )}
      </section>
    </div>
  );
}

function Parameters({
  operation,
  filled,
  names,
  onFilled,
  onCollection,
}: {
  operation: Operation;
  filled: Filled;
  names: string[];
  onFilled: (filled: Filled) => void;
  onCollection: (name: string) => void;
}) {
  const inPath = pathNames(operation);
  const query = operation.query ?? [];
  if (inPath.length + query.length === 0) return null;
  return (
    <div className="mb-3 grid gap-2">
      {inPath.map((name) => (
        <label key={name} className="grid grid-cols-[120px_1fr] items-center gap-3">
          <span className="figures text-[13px]">{name}</span>
          {name === 'collection' && names.length > 0 ? (
            <select className="field" value={filled.path[name]} onChange={(event) => onCollection(event.target.value)}>
              {names.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
          ) : (
            <input
              className="field figures text-[13px]"
              value={filled.path[name] ?? ''}
              onChange={(event) => onFilled({ ...filled, path: { ...filled.path, [name]: event.target.value } })}
            />
          )}
        </label>
      ))}
      {query.map(({ name, description, schema, example }) => (
        <label key={name} className="grid grid-cols-[120px_1fr] items-start gap-3">
          <span className="figures pt-1.5 text-[13px]">{name}</span>
          <span>
            <input
              className="field figures text-[13px]"
              placeholder={
                schema.default === undefined ? (example === undefined ? '' : String(example)) : String(schema.default)
              }
              value={filled.query[name] ?? ''}
              onChange={(event) => onFilled({ ...filled, query: { ...filled.query, [name]: event.target.value } })}
            />
            <span className="block text-xs text-soft">{description}</span>
          </span>
        </label>
      ))}
    </div>
  );
}
